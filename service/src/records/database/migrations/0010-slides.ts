/** Slide decks are files of a run like workbooks and documents. */
export const up = `
ALTER TABLE files DROP CONSTRAINT files_kinds, ADD CONSTRAINT files_kinds CHECK (kind IN ('xlsx', 'docx', 'pptx', 'pdf'));
`;
