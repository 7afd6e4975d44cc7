/** The names by which a definition refers to what stands outside of it, and a definition's text with other names in their place. */

import { isAlias, isScalar, parseDocument, Scalar, stringify } from "yaml";
import { CorbixError } from "../common/index.js";
import { say } from "../words/index.js";
import { parseReport } from "./parse.js";
import type { Report } from "./schema.js";
import { datasetsBeside } from "./schema.js";

type Path = readonly (string | number)[];
type Written = Pick<NonNullable<Report["message"]>, "body" | "text">;

/** All datasets a report is made from, its own first. */
export function datasetsOf(report: Report): string[] {
  return [...new Set([report.data, ...datasetsBeside(report)])];
}

/** Files among the templates that a report names: templates, bodies, what follows them, files for everybody. */
export function templatesOf(report: Report): string[] {
  return [...new Set(templatePlaces(report).map(({ name }) => name))];
}

interface Place {
  readonly path: Path;
  readonly name: string;
}

function templatePlaces(report: Report): Place[] {
  const files = Object.entries(report.files).flatMap(([file, spec]) => [
    ...(spec.template === undefined ? [] : [{ path: ["files", file, "template"], name: spec.template }]),
    ...(spec.followedBy ?? []).map((one, at) =>
      typeof one === "string"
        ? { path: ["files", file, "followedBy", at], name: one }
        : { path: ["files", file, "followedBy", at, "template"], name: one.template },
    ),
  ]);
  const { message } = report;
  if (!message) return files;
  const words = (path: Path, { body, text }: Written): Place[] => [
    ...("template" in body ? [{ path: [...path, "body", "template"], name: body.template }] : []),
    ...(typeof text === "object" ? [{ path: [...path, "text", "template"], name: text.template }] : []),
  ];
  return [
    ...files,
    ...words(["message"], message),
    ...Object.entries(message.languages).flatMap(([language, own]) => words(["message", "languages", language], own)),
    ...message.attach.flatMap((one, at) =>
      typeof one === "object" && "fixed" in one ? [{ path: ["message", "attach", at, "fixed"], name: one.fixed }] : [],
    ),
  ];
}

function datasetPlaces(report: Report): Place[] {
  const steps = (path: Path, spec: Pick<Report, "bring" | "prepare">): Place[] => [
    ...spec.bring.map((one, at) => ({ path: [...path, "bring", at, "from"], name: one.from })),
    ...spec.prepare.flatMap((step, at) => {
      if ("bring" in step) return [{ path: [...path, "prepare", at, "bring", "from"], name: step.bring.from }];
      return "replace" in step && step.replace.from !== undefined
        ? [{ path: [...path, "prepare", at, "replace", "from"], name: step.replace.from }]
        : [];
    }),
  ];
  return [
    { path: ["data"], name: report.data },
    ...(report.figures ? [{ path: ["figures", "dataset"], name: report.figures.dataset }] : []),
    ...steps([], report),
    ...Object.entries(report.lines).flatMap(([name, spec]) => [
      { path: ["lines", name, "data"], name: spec.data },
      ...steps(["lines", name], spec),
    ]),
  ];
}

/** What is called otherwise from now on; what is left out stays. */
export interface NewNames {
  readonly report?: string;
  readonly title?: string;
  /** Old name: new name. */
  readonly datasets?: ReadonlyMap<string, string>;
  readonly templates?: ReadonlyMap<string, string>;
}

/**
 * A definition's text with other names; everything else stays letter for letter. Throws `BAD_DEFINITION` where a name stands in the
 * text in a way that cannot be told from others, such as behind an anchor that is used elsewhere too.
 */
export function withNames(source: string, names: NewNames): string {
  const report = parseReport(source, "report");
  const cannotRename = (path: Path): CorbixError =>
    new CorbixError("BAD_DEFINITION", say().report.cannotChangeNameTextStands({ report: report.report }), {
      where: say().report.report({ report: report.report, path: path.join(", ") }),
      advice: say().report.writeNameOutEachPlaces(),
    });
  const moved = ({ path, name }: Place, to: ReadonlyMap<string, string> | undefined) => {
    const other = to?.get(name);
    return other === undefined || other === name ? [] : [{ path, to: other }];
  };
  const changes: readonly { readonly path: Path; readonly to: string }[] = [
    ...(names.report === undefined ? [] : [{ path: ["report"], to: names.report }]),
    ...(names.title === undefined ? [] : [{ path: ["title"], to: names.title }]),
    ...datasetPlaces(report).flatMap((place) => moved(place, names.datasets)),
    ...templatePlaces(report).flatMap((place) => moved(place, names.templates)),
  ];
  const document = parseDocument(source);
  const edits = changes.map(({ path, to }) => {
    const node: unknown = document.getIn([...path], true);
    if (!(isScalar(node) || isAlias(node)) || !node.range || (isScalar(node) && node.anchor !== undefined))
      throw cannotRename(path);
    return { from: node.range[0], to: node.range[1], text: scalarText(to, isScalar(node) ? node.type : undefined) };
  });
  const edited = edits
    .sort((one, other) => other.from - one.from)
    .reduce((text, { from, to, text: put }) => text.slice(0, from) + put + text.slice(to), source);
  const after = parseReport(edited, "report");
  const left = [
    ...datasetPlaces(after).filter(({ name }) => isOld(name, names.datasets)),
    ...templatePlaces(after).filter(({ name }) => isOld(name, names.templates)),
  ];
  if (left[0]) throw cannotRename(left[0].path);
  return edited;
}

/**
 * A definition's text as that of another report: under its names, and without what would start it by itself. Throws `BAD_DEFINITION`
 * as {@link withNames} does.
 */
export function asCopy(source: string, names: NewNames & { readonly report: string; readonly title: string }): string {
  const renamed = withNames(source, names);
  const document = parseDocument(renamed);
  const starts = ["schedule", "startOnData"].filter((field) => document.delete(field));
  return starts.length > 0 ? document.toString({ lineWidth: 0 }) : renamed;
}

/** Templates that a report's message is written in. */
export function bodiesOf(report: Report): string[] {
  const places = templatePlaces(report).filter(({ path }) => path[0] === "message" && !path.includes("attach"));
  return [...new Set(places.map(({ name }) => name))];
}

const isOld = (name: string, names: ReadonlyMap<string, string> | undefined): boolean => {
  const to = names?.get(name);
  return to !== undefined && to !== name;
};

/** In the way the name before it was written. */
function scalarText(value: string, type: string | undefined): string {
  const scalar = new Scalar(value);
  const isQuoted = type === Scalar.QUOTE_DOUBLE || type === Scalar.QUOTE_SINGLE;
  scalar.type = isQuoted ? type : Scalar.PLAIN;
  const text = stringify(scalar, { lineWidth: 0 }).trimEnd();
  // A block ends with its line.
  return type === Scalar.BLOCK_FOLDED || type === Scalar.BLOCK_LITERAL ? `${text}\n` : text;
}
