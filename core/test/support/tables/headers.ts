/** Small made files of many makers, each with what a careful person reads in it. Rows are lines; a cell ends at `|`. */
export interface HeaderCase {
  readonly what: string;
  readonly lines: readonly string[];
  /** 1-based. */
  readonly header: number;
  readonly names: readonly string[];
  readonly rows: number;
  /** Finding codes that have to be told. */
  readonly told?: readonly string[];
}

const rowsOf = (text: string): string[] =>
  text
    .trim()
    .split("\n")
    .map((line) => line.trim());

export const HEADERS: readonly HeaderCase[] = [
  {
    what: "first remarks blank, a fuller text row further down",
    lines: rowsOf(`
      Site|Contact|Status|Remarks
      Dock|Ann Berg|Open|
      Quay|Ben Cole|Done|
      Mill|Cem Dal|Open|
      Hall|Dora Eng|Done|
      Yard|Eli Fox|Open|
      Pier|Fay Gil|Done|Door sticks on level two
      Gate|Gus Hill|Open|Waiting for a part`),
    header: 1,
    names: ["Site", "Contact", "Status", "Remarks"],
    rows: 7,
  },
  {
    what: "copies blank in the first rows of a list of recipients",
    lines: rowsOf(`
      Group|Name|Address|Copies
      Dock|Ann|ann@dock.example|
      Quay|Ben|ben@quay.example|
      Mill|Cem|cem@mill.example|desk@mill.example`),
    header: 1,
    names: ["Group", "Name", "Address", "Copies"],
    rows: 3,
  },
  {
    what: "a heading missing",
    lines: rowsOf(`
      Site|Unit||Fee
      Dock|L-1|2026-10-02|92.50
      Quay|L-2|2026-10-03|80.00
      Mill|L-3|2026-10-05|75.25`),
    header: 1,
    names: ["Site", "Unit", "Column C", "Fee"],
    rows: 3,
    told: ["column-without-name"],
  },
  {
    what: "a heading twice",
    lines: rowsOf(`
      Site|Contact|Contact|Place
      Dock|Ann|0611 22|North
      Quay|Ben|0611 33|South
      Mill|Cem|0611 44|East`),
    header: 1,
    names: ["Site", "Contact", "Contact 2", "Place"],
    rows: 3,
    told: ["column-named-twice"],
  },
  {
    what: "the first column has no name",
    lines: rowsOf(`
      |January|February|March
      Dock|12|14|9
      Quay|8|7|11
      Mill|3|5|4`),
    header: 1,
    names: ["Column A", "January", "February", "March"],
    rows: 3,
    told: ["column-without-name"],
  },
  {
    what: "headings are years",
    lines: rowsOf(`
      Site|2024|2025|2026
      Dock|1200.5|1300|1250
      Quay|800|820|790.25
      Mill|300|310|305`),
    header: 1,
    names: ["Site", "2024", "2025", "2026"],
    rows: 3,
  },
  {
    what: "nothing but years above a column without name",
    lines: rowsOf(`
      |2024|2025|2026
      Dock|1200|1300|1250
      Quay|800|820|790`),
    header: 1,
    names: ["Column A", "2024", "2025", "2026"],
    rows: 2,
  },
  {
    what: "headings are the days of a month",
    lines: rowsOf(`
      Unit|1|2|3|4|5|6|7
      L-1|0|2|0|1|0|0|1
      L-2|1|0|0|0|2|0|0`),
    header: 1,
    names: ["Unit", "1", "2", "3", "4", "5", "6", "7"],
    rows: 2,
  },
  {
    what: "one year among words",
    lines: rowsOf(`
      Site|Contract|2026
      Dock|full|1200
      Quay|basic|800`),
    header: 1,
    names: ["Site", "Contract", "2026"],
    rows: 2,
  },
  {
    what: "title, printed line, blank line, header",
    lines: rowsOf(`
      Visits of October
      Printed|2026-11-02

      Site|Unit|Done on|Fee
      Dock|L-1|2026-10-02|92.50
      Quay|L-2|2026-10-03|80`),
    header: 4,
    names: ["Site", "Unit", "Done on", "Fee"],
    rows: 2,
  },
  {
    what: "a block of keys and values above a table of two columns",
    lines: rowsOf(`
      Report|Visits
      Date|2026-10-31

      Site|Fee
      Dock|92.50
      Quay|80
      Mill|75.25
      Hall|60
      Yard|61
      Pier|62`),
    header: 4,
    names: ["Site", "Fee"],
    rows: 6,
  },
  {
    what: "keys and values close above a wide table",
    lines: rowsOf(`
      Office|North
      Month|October 2026
      Site|Unit|Kind|Done on|Fee
      Dock|L-1|lift|2026-10-02|92.50
      Quay|L-2|lift|2026-10-03|80`),
    header: 3,
    names: ["Site", "Unit", "Kind", "Done on", "Fee"],
    rows: 2,
  },
  {
    what: "all texts, no figures",
    lines: rowsOf(`
      Town|Caretaker|Key kept at
      Ahrstadt|Ann Berg|desk
      Bielfeld|Ben Cole|safe
      Celmouth|Cem Dal|porter`),
    header: 1,
    names: ["Town", "Caretaker", "Key kept at"],
    rows: 3,
  },
  {
    what: "a header that comes again on each page",
    lines: rowsOf(`
      Site|Unit|Fee
      Dock|L-1|92.50
      Quay|L-2|80
      Site|Unit|Fee
      Mill|L-3|75`),
    header: 1,
    names: ["Site", "Unit", "Fee"],
    rows: 3,
    told: ["repeated-header-left-out"],
  },
  {
    what: "a blank line below the header",
    lines: rowsOf(`
      Site|Unit|Fee

      Dock|L-1|92.50
      Quay|L-2|80`),
    header: 1,
    names: ["Site", "Unit", "Fee"],
    rows: 2,
  },
  {
    what: "a blank line below a header, and words alone",
    lines: rowsOf(`
      Town|Caretaker|Key kept at

      Ahrstadt|Ann Berg|desk
      Bielfeld|Ben Cole|safe
      Celmouth|Cem Dal|porter`),
    header: 1,
    names: ["Town", "Caretaker", "Key kept at"],
    rows: 3,
  },
  {
    what: "groups over columns, without merged cells",
    lines: rowsOf(`
      Site|Planned||Actual|
      |Hours|Fee|Hours|Fee
      Dock|3|90|4|120
      Quay|2|60|2|60`),
    header: 1,
    names: ["Site", "Planned Hours", "Planned Fee", "Actual Hours", "Actual Fee"],
    rows: 2,
  },
  {
    what: "groups said again over each column",
    lines: rowsOf(`
      Site|Planned|Planned|Actual|Actual
      Name|Hours|Fee|Hours|Fee
      Dock|3|90|4|120
      Quay|2|60|2|60`),
    header: 1,
    names: ["Site Name", "Planned Hours", "Planned Fee", "Actual Hours", "Actual Fee"],
    rows: 2,
  },
  {
    what: "a title with something beside it is not glued onto names",
    lines: rowsOf(`
      Visit list||||North office
      Site|Unit|Kind|Fee|
      Dock|L-1|lift|92.50|late
      Quay|L-2|lift|80|`),
    header: 2,
    names: ["Site", "Unit", "Kind", "Fee", "Column E"],
    rows: 2,
    told: ["column-without-name"],
  },
  {
    what: "a status that is a word of the header",
    lines: rowsOf(`
      Unit|State|Remark
      L-1|Open|Door
      L-2|Done|
      L-3|Open|State unknown
      L-4|Done|Remark follows`),
    header: 1,
    names: ["Unit", "State", "Remark"],
    rows: 4,
  },
  {
    what: "two columns, the second blank at first",
    lines: rowsOf(`
      Unit|Remark
      L-1|
      L-2|
      L-3|Door
      L-4|Rope`),
    header: 1,
    names: ["Unit", "Remark"],
    rows: 4,
  },
  {
    what: "one column",
    lines: rowsOf(`
      Address
      ann@dock.example
      ben@quay.example`),
    header: 1,
    names: ["Address"],
    rows: 2,
  },
  {
    what: "long headings with line breaks in words",
    lines: rowsOf(`
      Site of the installation|Number of stops (incl. basement)|Fee in CHF without tax|Date of last inspection
      Dock|5|92.50|2026-10-02
      Quay|7|80.00|2026-10-03`),
    header: 1,
    names: [
      "Site of the installation",
      "Number of stops (incl. basement)",
      "Fee in CHF without tax",
      "Date of last inspection",
    ],
    rows: 2,
  },
  {
    what: "headings with codes in them",
    lines: rowsOf(`
      F1 Site|F2 Unit|F3 Fee
      Dock|L-1|92.50
      Quay|L-2|80`),
    header: 1,
    names: ["F1 Site", "F2 Unit", "F3 Fee"],
    rows: 2,
  },
  {
    what: "a line of units below the header stays a row",
    lines: rowsOf(`
      Site|Travel|Speed
      |m|m/s
      Dock|12.5|1.6
      Quay|30|2.5`),
    header: 1,
    names: ["Site", "Travel", "Speed"],
    rows: 3,
  },
  {
    what: "many sparse columns",
    lines: rowsOf(`
      Unit|Site|Rope|Brake|Door|Light|Bell|Note
      L-1|Dock||worn||||
      L-2|Quay|||stuck|||
      L-3|Mill|frayed|||dim|mute|see letter
      L-4|Hall||||||`),
    header: 1,
    names: ["Unit", "Site", "Rope", "Brake", "Door", "Light", "Bell", "Note"],
    rows: 4,
  },
  {
    what: "the first row is the fullest of all and all of it words",
    lines: rowsOf(`
      Inspector|Site|Kind|Result
      Ann|Dock|lift|passed
      Ben|Quay|escalator|passed
      Ann|Mill|lift|failed`),
    header: 1,
    names: ["Inspector", "Site", "Kind", "Result"],
    rows: 3,
  },
  {
    what: "money and percentages as texts",
    lines: rowsOf(`
      Site|Fee|Share
      Dock|CHF 92.50|12 %
      Quay|CHF 80.00|11 %`),
    header: 1,
    names: ["Site", "Fee", "Share"],
    rows: 2,
  },
  {
    what: "a second table below a blank line, smaller",
    lines: rowsOf(`
      Site|Unit|Fee
      Dock|L-1|92.50
      Quay|L-2|80
      Mill|L-3|75

      Rate|Amount
      normal|80
      night|120`),
    header: 1,
    names: ["Site", "Unit", "Fee"],
    rows: 3,
    told: ["several-tables"],
  },
  {
    what: "notes above that are as long as sentences",
    lines: rowsOf(`
      This list was made by the dispatch desk. Please do not change it.
      Questions: call 0611 22 33.
      Unit|Site|Next visit
      L-1|Dock|2027-04-02
      L-2|Quay|2027-05-03`),
    header: 3,
    names: ["Unit", "Site", "Next visit"],
    rows: 2,
  },
  {
    what: "shares as headings",
    lines: rowsOf(`
      Site|0%|50%|100%
      Dock|1|2|3
      Quay|2|3|4`),
    header: 1,
    names: ["Site", "0%", "50%", "100%"],
    rows: 2,
  },
  {
    what: "steps of ten as headings",
    lines: rowsOf(`
      Site|10|20|30
      Dock|1|2|3
      Quay|2|3|4`),
    header: 1,
    names: ["Site", "10", "20", "30"],
    rows: 2,
  },
  {
    what: "days as headings",
    lines: rowsOf(`
      Unit|2026-10-01|2026-10-02|2026-10-03
      L-1|ok||ok
      L-2||ok|`),
    header: 1,
    names: ["Unit", "2026-10-01", "2026-10-02", "2026-10-03"],
    rows: 2,
  },
  {
    what: "hours as headings",
    lines: rowsOf(`
      Day|08:00|09:00|10:00
      Mon|Ann||Ben
      Tue||Ann|`),
    header: 1,
    names: ["Day", "08:00", "09:00", "10:00"],
    rows: 2,
  },
  {
    what: "quarters as headings",
    lines: rowsOf(`
      Site|Q1|Q2|Q3|Q4
      Dock|3|4|2|5
      Quay|1|2|2|1`),
    header: 1,
    names: ["Site", "Q1", "Q2", "Q3", "Q4"],
    rows: 2,
  },
  {
    what: "names with a number in them above names with a number",
    lines: rowsOf(`
      Lift 1|Lift 2|Lift 3
      passed|failed|passed
      failed|passed|passed`),
    header: 1,
    names: ["Lift 1", "Lift 2", "Lift 3"],
    rows: 2,
  },
];

/** Files that have no header: they are refused, with what to say. */
export const HEADERLESS: readonly { readonly what: string; readonly lines: readonly string[] }[] = [
  {
    what: "words, codes, money and days",
    lines: ["Dock|L-1|92.50|2026-10-02", "Quay|L-2|80.00|2026-10-03", "Mill|L-3|75.25|2026-10-05"],
  },
  { what: "figures alone", lines: ["1|2|3", "4|5|6"] },
  { what: "names and addresses of mail", lines: ["Dock|ann@dock.example", "Quay|ben@quay.example"] },
  { what: "words that come again", lines: ["Dock|lift|open", "Dock|lift|done", "Quay|lift|open"] },
  { what: "days first", lines: ["2026-10-02|Dock|3", "2026-10-03|Quay|5"] },
];

/** What makers put above a table; `after` tells whether a blank line follows. */
export const TOPS: readonly (readonly string[])[] = [
  [],
  ["Visits of October"],
  ["Visits of October", ""],
  ["North office", "Visits of October 2026", ""],
  ["Report|Visits", "Month|October 2026", ""],
  ["Printed on|2026-11-02", ""],
  ["", "", "Confidential", ""],
  ["Made by the dispatch desk, for inspectors and owners of units alike.", ""],
  ["Office:|North||Month:|October", ""],
];

/** Tables of four columns and more, of every sort of content. */
export const BODIES: readonly { readonly names: readonly string[]; readonly rows: readonly string[] }[] = [
  {
    names: ["Site", "Unit", "Done on", "Fee", "Inspector"],
    rows: ["Dock|L-1|2026-10-02|92.50|Ann", "Quay|L-2|2026-10-03|80|Ben", "Mill|L-3|2026-10-05|75.25|Ann"],
  },
  {
    names: ["Site", "Contact", "Status", "Remarks", "Key"],
    rows: ["Dock|Ann|Open||desk", "Quay|Ben|Done||safe", "Mill|Cem|Open|Door|desk", "Hall|Dora|Done||safe"],
  },
  { names: ["Unit", "2023", "2024", "2025", "2026"], rows: ["L-1|10|12|14|13", "L-2|7|8|8|9"] },
  {
    names: ["Town", "January", "February", "March", "April"],
    rows: ["Ahrstadt|1|2|3|1", "Bielfeld|2|2|1|0", "Celmouth|0|1|1|1"],
  },
  {
    names: ["Code", "Owner", "Street", "Town", "Mail"],
    rows: ["00123|Dock Ltd|Quay Road 4|Ahrstadt|a@dock.example", "00124|Mill AG|Hill 9|Bielfeld|b@mill.example"],
  },
  {
    names: ["Unit", "Passed", "Rope", "Brake", "Door"],
    rows: ["L-1|yes|ok|worn|ok", "L-2|no|worn||ok", "L-3|yes|ok|ok|ok", "L-4|yes|ok|ok|"],
  },
  {
    names: ["Inspector", "Hours", "Kilometres", "Visits", "Rate"],
    rows: ["Ann|12.5|240|8|95", "Ben|8|120|5|95", "Cem|30|800|21|90"],
  },
  {
    names: ["When", "Where", "Who", "What", "Minutes"],
    rows: ["08:30|Dock|Ann|inspection|90", "10:15|Quay|Ben|repair|45"],
  },
];
