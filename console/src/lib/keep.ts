/** What is done to reports, datasets and templates after they were made, in words. */
import type { Answer } from "@corbix/api/client";
import { plural } from "./format";

export type Kept = Answer<"get", "/library/{kind}/{name}">;
export type Kind = Kept["kind"];
export type Hanging = Kept["hanging"][number];
export type Deed = "rename" | "copy" | "archive" | "delete";

/** One of a kind. */
export const ONE: Readonly<Record<Kind, string>> = { reports: "report", datasets: "dataset", templates: "template" };

export function archivedWords(kind: Kind, count: number): string {
  if (kind === "reports") return plural(count, ["# archived report", "# archived reports"]);
  return kind === "datasets"
    ? plural(count, ["# archived dataset", "# archived datasets"])
    : plural(count, ["# archived template", "# archived templates"]);
}

/** What hangs on something, one thing as one line. */
export function hangingWords({ what, count, names }: Hanging): string {
  const named = `${names.join(", ")}${count > names.length ? ` and ${count - names.length} more` : ""}`;
  switch (what) {
    case "versions":
      return plural(count, ["# version", "# versions"]);
    case "editions":
      return plural(count, ["# edition", "# editions"]);
    case "runs":
      return `${plural(count, ["# run", "# runs"])} made with it`;
    case "running":
      return `${plural(count, ["# run", "# runs"])} not over yet: ${named}`;
    case "deliveries":
      return `${plural(count, ["# delivery", "# deliveries"])} in the book of what went out`;
    case "schedule":
      return "the times at which it runs by itself";
    case "reports":
      return `${plural(count, ["# report", "# reports"])} made from it: ${named}`;
    case "archivedReports":
      return `${plural(count, ["# archived report", "# archived reports"])} made from it: ${named}`;
    case "texts":
      return `its name in the text of ${named}`;
    case "mailbox":
      return `the address ${named}, at which files come in by mail`;
  }
}

/** What has to be done before. */
export function wayOut({ what }: Hanging): string {
  switch (what) {
    case "running":
      return "Release or stop that run first.";
    case "reports":
      return "Archive that report, or let it use another one, first.";
    case "archivedReports":
      return "Delete that report first.";
    case "texts":
      return "Add the file under its new name, change it there, then delete this one.";
    default:
      return "";
  }
}

/** What the deed does, said before it is done. */
export function outcomeWords(deed: Deed, { kind, keptForRuns, hanging }: Kept): string {
  const reports = hanging.filter(({ what }) => what === "reports" || what === "archivedReports");
  const followers = reports.reduce((sum, one) => sum + one.count, 0);
  if (deed === "rename") {
    const follow = followers > 0 ? ` ${plural(followers, ["# report", "# reports"])} will say the new name.` : "";
    return `Everything that hangs on it goes on, and links to the old name lead to it.${follow}`;
  }
  if (deed === "copy")
    return {
      reports: "The copy has its own message and starts nothing by itself until you say when.",
      datasets:
        "The copy has the newest edition and the same corrections; what is loaded into one does not touch the other.",
      templates: "The copy begins at version 1; reports go on using this one.",
    }[kind];
  if (deed === "archive")
    return {
      reports: "It leaves the list and runs no more. Its runs and what it sent stay; bring it back whenever you like.",
      datasets: "It leaves the list and takes no more files. Its editions stay; bring it back whenever you like.",
      templates: "It leaves the list. Its versions stay; bring it back whenever you like.",
    }[kind];
  return keptForRuns
    ? "It is gone from all lists for good. What its runs were made with stays for them alone, so that what went out can still be told, and is not sent again."
    : "Nothing was made with it yet: it is gone for good.";
}
