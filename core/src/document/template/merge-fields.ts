/** Merge fields of old templates as expressions: ECMA-376 part 1, 17.16.5.35 and its switches, 17.16.4. */

const CHANGES: Readonly<Record<string, string>> = {
  upper: "upper",
  lower: "lower",
  caps: "proper",
  firstcap: "firstcap",
};

/** What a merge field's instruction asks for, as it would stand in a mark; `undefined` for other fields. */
export function mergeFieldMark(instruction: string): string | undefined {
  const words = instruction.match(/"[^"]*"|\S+/g) ?? [];
  if (words[0]?.toUpperCase() !== "MERGEFIELD" || words[1] === undefined) return undefined;
  const column = `\`${plain(words[1])}\``;
  let value = column;
  let format: string | undefined;
  let before = "";
  let after = "";
  for (let at = 2; at < words.length; at++) {
    const given = words[at + 1] === undefined ? "" : plain(words[at + 1]);
    switch (words[at].toLowerCase()) {
      case "\\*": {
        const change = CHANGES[given.toLowerCase()];
        if (change === "firstcap") value = `upper(left(${value}, 1)) & mid(${value}, 2, 9999)`;
        else if (change) value = `${change}(${value})`;
        at++;
        break;
      }
      case "\\@":
        // In pictures of dates capital M is the month and small m the minute; number formats tell them by their neighbours.
        format = given.replaceAll("M", "m").replaceAll("am/pm", "AM/PM");
        at++;
        break;
      case "\\#":
        format = given;
        at++;
        break;
      case "\\b":
        before = given;
        at++;
        break;
      case "\\f":
        after = given;
        at++;
        break;
    }
  }
  if (before !== "" || after !== "") {
    const shown = format === undefined ? value : `text(${value}, ${quoted(format)})`;
    return `if(isblank(${column}), "", ${quoted(before)} & ${shown} & ${quoted(after)})`;
  }
  return format === undefined ? value : `${value} as ${quoted(format)}`;
}

function plain(word: string): string {
  return word.replace(/^"(.*)"$/, "$1");
}

function quoted(text: string): string {
  return `"${text.replaceAll('"', '""')}"`;
}
