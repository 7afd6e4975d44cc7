/** Places are offsets into the text of the expression, 0-based. */
export type Ast =
  | {
      readonly kind: "literal";
      readonly value: number | string | boolean | null;
      readonly text: string;
      readonly at: number;
    }
  /** `fee`, `line.fee`, `recipient.name`; parts as written, without back quotes. */
  | { readonly kind: "name"; readonly parts: readonly string[]; readonly at: number }
  | { readonly kind: "unary"; readonly op: "-" | "%" | "not"; readonly arg: Ast; readonly at: number }
  | { readonly kind: "binary"; readonly op: BinaryOp; readonly left: Ast; readonly right: Ast; readonly at: number }
  | { readonly kind: "in"; readonly arg: Ast; readonly list: readonly Ast[]; readonly at: number }
  | {
      readonly kind: "call";
      readonly name: string;
      readonly args: readonly Ast[];
      readonly where?: Ast;
      readonly at: number;
    };

export type BinaryOp = "or" | "and" | "=" | "<>" | "<" | "<=" | ">" | ">=" | "&" | "+" | "-" | "*" | "/" | "^";

/** Every name in an expression, for knowing what a field needs. */
export function namesIn(ast: Ast): readonly (readonly string[])[] {
  switch (ast.kind) {
    case "literal":
      return [];
    case "name":
      return [ast.parts];
    case "unary":
      return namesIn(ast.arg);
    case "binary":
      return [...namesIn(ast.left), ...namesIn(ast.right)];
    case "in":
      return [...namesIn(ast.arg), ...ast.list.flatMap(namesIn)];
    case "call":
      return [...ast.args.flatMap(namesIn), ...(ast.where ? namesIn(ast.where) : [])];
  }
}
