/** Why a version of a report was saved, in the words of who did. */
export const up = "ALTER TABLE report_versions ADD COLUMN note text;";
