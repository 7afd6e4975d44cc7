/** A part cut into what stays as it is, what is filled, and what repeats: filling is joining. */
import { type Field, parseField } from "../expression/index.js";
import type { XmlElement } from "../ooxml/index.js";
import type { Structure } from "../template/index.js";
import type { ChartColumn } from "./charts.js";
import type { ShapeBox } from "./dialect.js";

export type TemplateNode =
  | { readonly kind: "raw"; readonly xml: string }
  | FieldPiece
  /** A link's address with marks in it, in the place of the relationship that leads there. */
  | {
      readonly kind: "link";
      readonly pieces: readonly (string | { readonly field: Field; readonly where: string })[];
      readonly where: string;
    }
  /** A field in an attribute, such as an alternative text or a link's address. */
  | { readonly kind: "attribute"; readonly field: Field; readonly where: string }
  /** Rows of a table with fields of the lines: once for each. */
  | { readonly kind: "lines"; readonly lines: string; readonly pieces: readonly TemplateNode[] }
  | RepeatPiece
  | {
      readonly kind: "when";
      readonly structure: Structure;
      readonly where: string;
      readonly pieces: readonly TemplateNode[];
      readonly otherwise: readonly TemplateNode[];
    }
  | TablePiece
  | PicturePiece
  | ChartPiece
  | BookmarkPiece
  /** A table or cell whose content may vanish: a table without rows goes, a cell ends with a paragraph. */
  | {
      readonly kind: "container";
      readonly what: "table" | "cell";
      readonly prefix: string;
      readonly pieces: readonly TemplateNode[];
    };

/** A field in running text. */
export interface FieldPiece {
  readonly kind: "field";
  readonly field: Field;
  readonly where: string;
  /** That of the text element it stands in. */
  readonly prefix: string;
  /** Looks of its run: breaks in the value, and its emphasis, need them. */
  readonly runProperties: string;
  /** Whether the value says what is strong and what is emphasised. */
  readonly isEmphasised: boolean;
  /** Whether other text stands in its paragraph. */
  readonly isInText: boolean;
}

export interface RepeatPiece {
  readonly kind: "repeat";
  readonly structure: Structure & { readonly kind: "repeat" };
  readonly where: string;
  readonly pieces: readonly TemplateNode[];
  /** Lists that start again in each repetition, by their numbers. */
  readonly restarts: readonly string[];
  /** Columns of a table: the same ones in each of its rows. */
  readonly isColumns: boolean;
  /** Of shapes: where they stand. */
  readonly box: ShapeBox | undefined;
}

/** A whole table of the lines, in the place of a paragraph. */
export interface TablePiece {
  readonly kind: "table";
  readonly structure: Structure & { readonly kind: "table" };
  readonly where: string;
  /** What it takes the place of, where nothing else stood in it. */
  readonly holder: XmlElement | undefined;
}

/** What a value may be drawn as. */
export const CODES = ["qr", "barcode"] as const;
export type Code = (typeof CODES)[number];

/** A drawing whose picture is chosen by the mark in its alternative text. */
export interface PicturePiece {
  readonly kind: "picture";
  /** The value is drawn as a code. */
  readonly code: Code | undefined;
  readonly field: Field;
  readonly where: string;
  readonly xml: string;
}

/** A drawing whose chart is made from the lines. */
export interface ChartPiece {
  readonly kind: "chart";
  readonly columns: readonly ChartColumn[];
  readonly source: string;
  readonly where: string;
  readonly xml: string;
}

/** What a bookmark spans: replaced where its name is one of the report's columns. */
export interface BookmarkPiece {
  readonly kind: "bookmark";
  readonly field: Field;
  readonly where: string;
  readonly prefix: string;
  /** Looks of the text it spans. */
  readonly runProperties: string;
  readonly pieces: readonly TemplateNode[];
}

/** The word behind `as` for values whose text may be **strong** or *emphasised*. */
export const EMPHASIS = "emphasis";

/** Every mark in pieces with its fields, those of repeated pieces included. */
export function marksIn(
  pieces: readonly TemplateNode[],
): { where: string; source: string; fields: readonly Field[]; lines?: string }[] {
  return pieces.flatMap((piece) => {
    switch (piece.kind) {
      case "raw":
        return [];
      case "lines":
      case "container":
        return marksIn(piece.pieces);
      case "bookmark":
        return marksIn(piece.pieces);
      case "repeat":
        return [markOf(piece), ...marksIn(piece.pieces)];
      case "when":
        return [markOf(piece), ...marksIn(piece.pieces), ...marksIn(piece.otherwise)];
      case "table":
        return [markOf(piece)];
      case "link":
        return piece.pieces.flatMap((one) =>
          typeof one === "string" ? [] : [{ where: one.where, source: one.field.source, fields: [one.field] }],
        );
      case "chart":
        return [
          {
            where: piece.where,
            source: piece.source,
            lines: piece.columns[0].lines,
            fields: piece.columns.map((one) => parseField(one.source)),
          },
        ];
      default:
        return [{ where: piece.where, source: piece.field.source, fields: [piece.field] }];
    }
  });
}

function markOf({ where, structure }: { readonly where: string; readonly structure: Structure }) {
  const fields =
    structure.kind === "when"
      ? [structure.test]
      : structure.kind === "repeat"
        ? [structure.where, structure.by]
        : structure.kind === "table"
          ? [structure.where, ...(structure.columns ?? []).map((column) => column.field)]
          : [];
  const lines = structure.kind === "repeat" || structure.kind === "table" ? { lines: structure.lines } : {};
  return { where, source: structure.source, ...lines, fields: fields.filter((field) => field !== undefined) };
}
