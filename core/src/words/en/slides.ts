export const slides = {
  cannotReadFileDeck: ({ isEmpty, isPackage }: { isEmpty: boolean; isPackage: boolean }) =>
    `Cannot read the file as a slide deck: ${isEmpty ? "it is empty" : isPackage ? "it is of another kind" : "it is no .pptx file"}.`,
  giveDeckFile: () => "Give a .pptx file.",
  putSlideMarksOnSlide: () => "Put it in a text box of the slide, or in its notes.",
  cannotPutTableHere: ({ source }: { source: string }) => `Cannot put a table where \`{{${source}}}\` stands.`,
  putTableAlone: () => "Put it alone in a text box or placeholder: the table takes its frame.",
  nameFewerColumns: () => "Name fewer columns, or make the frame wider.",
  cellOf: ({ name, row, column }: { name: string; row: number; column: number }) =>
    `${name}, row ${row}, column ${column}`,
  section: ({ name }: { name: string }) => `section ${name}`,
  chartIn: ({ where }: { where: string }) => `${where}, chart`,
  notesIn: ({ where }: { where: string }) => `${where}, notes`,
  shapesReachBeyond: () => "Shapes that repeat reach beyond the slide.",
  makeShapesSmaller: () => "Make them smaller, or let slides repeat instead.",
  cannotAddPeriod: ({ period, last }: { period: string; last: string }) =>
    `Cannot add slides for ${period}: the deck goes on to ${last} already.`,
  noHiddenSlide: () => "Cannot let the deck grow: it has no hidden slide with marks.",
  hideTheSlide: () => "Hide the slide that is made for each period; the others are made once.",
};
