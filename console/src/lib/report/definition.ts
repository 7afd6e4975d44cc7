/** A report's definition as text and as a value, changed field by field: comments, order and everything else stay. */
import { type Document, isCollection, isMap, isNode, isScalar, LineCounter, parseDocument, Scalar } from "yaml";

/** Where a field stands: names of fields and places in lists. */
export type Path = readonly (string | number)[];

/** What is wrong with a text as YAML, and where. */
export interface TextProblem {
  readonly what: string;
  /** 1-based. */
  readonly line: number;
  readonly column: number;
}

const OUTPUT = { lineWidth: 0, flowCollectionPadding: true } as const;

/** A definition while it is written. Each change makes a new one; `text` is what is saved. */
export class Definition {
  private readonly document: Document;
  readonly problem: TextProblem | undefined;

  constructor(readonly text: string) {
    const lines = new LineCounter();
    this.document = parseDocument(text, { lineCounter: lines, prettyErrors: false });
    const [error] = this.document.errors;
    if (!error) return;
    const { line, col } = lines.linePos(error.pos[0]);
    this.problem = { what: error.message, line, column: col };
  }

  /** What it says, as far as it can be read. */
  get value(): Record<string, unknown> {
    if (this.problem) return {};
    const value: unknown = this.document.toJS({ maxAliasCount: 50 });
    return typeof value === "object" && value !== null && !Array.isArray(value) ? { ...value } : {};
  }

  get(path: Path): unknown {
    const found: unknown = this.document.getIn([...path], true);
    return isNode(found) ? found.toJS(this.document, { maxAliasCount: 50 }) : found;
  }

  has(path: Path): boolean {
    return this.document.hasIn([...path]);
  }

  /** With a field set; `undefined` takes it out, and with it what is empty then. */
  with(path: Path, value: unknown): Definition {
    const document = this.copy();
    if (value === undefined) take(document, path);
    else put(document, path, value);
    return this.written(document);
  }

  /** With an entry of a list or a field of a map moved to another place among its neighbours. */
  moved(path: Path, to: number): Definition {
    const document = this.copy();
    const parent = document.getIn([...path.slice(0, -1)], true);
    if (!isCollection(parent)) return this;
    const key = path[path.length - 1];
    const from = isMap(parent) ? parent.items.findIndex((pair) => keyOf(pair.key) === key) : Number(key);
    const [item] = parent.items.splice(from, 1);
    if (item) parent.items.splice(to, 0, item as never);
    return this.written(document);
  }

  /** With a field called otherwise, where it stands. */
  renamed(path: Path, name: string): Definition {
    const document = this.copy();
    const parent = document.getIn([...path.slice(0, -1)], true);
    const pair = isMap(parent) ? parent.items.find((one) => keyOf(one.key) === path[path.length - 1]) : undefined;
    if (!pair) return this;
    if (isScalar(pair.key)) pair.key.value = name;
    else pair.key = document.createNode(name);
    return this.written(document);
  }

  /** A changed document as text: lines that say the same stay as somebody wrote them. */
  private written(document: Document): Definition {
    const plain = document.toString(OUTPUT);
    const kept = withOwnLines(plain, this.text);
    // Blanks inside of a text are no way of writing it.
    const isSame = JSON.stringify(parseDocument(kept).toJS()) === JSON.stringify(parseDocument(plain).toJS());
    return new Definition(isSame ? kept : plain);
  }

  private copy(): Document {
    const document = parseDocument(this.text, { prettyErrors: false });
    if (document.errors.length > 0) throw new Error("a text that cannot be read cannot be changed");
    return document;
  }
}

/** The lines of a text, each as it stands in another where that says the same but for blanks beside brackets and between words. */
function withOwnLines(text: string, own: string): string {
  const lines = own.split("\n");
  const folded = lines.map(fold);
  let from = 0;
  return text
    .split("\n")
    .map((line) => {
      const at = folded.indexOf(fold(line), from);
      if (at < 0) return line;
      from = at + 1;
      return lines[at];
    })
    .join("\n");
}

function fold(line: string): string {
  const [, indent, rest] = /^(\s*)(.*?)\s*$/.exec(line) ?? [];
  return indent + rest.replace(/\s*([[\]{},:])\s*/g, "$1").replace(/\s+/g, " ");
}

function keyOf(key: unknown): unknown {
  return isScalar(key) ? key.value : key;
}

/** Maps and lists on the way are made where they are missing. */
function put(document: Document, path: Path, value: unknown): void {
  if (document.contents === null) document.contents = document.createNode({}) as never;
  for (let length = 1; length < path.length; length++) {
    const way = path.slice(0, length);
    if (isCollection(document.getIn([...way], true))) continue;
    document.setIn([...way], document.createNode(typeof path[length] === "number" ? [] : {}));
  }
  const before = document.getIn([...path], true);
  if (isScalar(before) && (value === null || typeof value !== "object")) {
    // A text is written in the way it was, unless that would make something else of it.
    if (typeof before.value !== typeof value) before.type = undefined as never;
    before.value = value;
    delete before.source;
    return;
  }
  const node = document.createNode(value);
  if (isNode(before)) {
    if (before.comment) node.comment = before.comment;
    if (before.commentBefore) node.commentBefore = before.commentBefore;
  }
  if (typeof value === "string" && value.includes("\n") && isScalar(node)) node.type = Scalar.BLOCK_LITERAL;
  document.setIn([...path], node);
}

/** What holds nothing any more goes too, up to the definition itself. */
function take(document: Document, path: Path): void {
  if (!document.hasIn([...path])) return;
  document.deleteIn([...path]);
  for (let length = path.length - 1; length > 0; length--) {
    const parent = document.getIn([...path.slice(0, length)], true);
    if (!isCollection(parent) || parent.items.length > 0) return;
    document.deleteIn([...path.slice(0, length)]);
  }
}
