export const fonts = {
  cannotLayOutTextFonts: () => "Cannot lay out text: there are no fonts.",
  installProjectSPackages: () => "Install the project's packages.",
  fontStandsPdfLinesMay: ({ family, drawn }: { family: string; drawn: string }) =>
    `The font "${family}" is not there; ${drawn} stands in for it in the PDF, and lines may break elsewhere.`,
  useFontSuchCalibriCambria: () =>
    "Use a font that is there, such as Calibri, Cambria, Arial, Times New Roman or Courier New, whose widths are kept.",
  fontCharactersPdfLeavesBlanks: ({ list }: { list: string }) =>
    `No font has the characters ${list}; the PDF leaves blanks for them, which can still be searched and copied.`,
  lookPageFileItselfThem: () => "Look at the page; the file itself has them.",
  cannotUseFont: ({ name, what }: { name: string; what: string }) => `Cannot use \`${name}\` as a font: ${what}.`,
  giveTruetypeFontTtfWoff: () => "Give a TrueType font: .ttf, or .woff made of one.",
  cannotRead: () => "it cannot be read",
  holdsSeveralFontsNoneName: () => "it holds several fonts, or none with a name",
  outlinesThoseTruetype: () => "its outlines are not those of TrueType",
};
