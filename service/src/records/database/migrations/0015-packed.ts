/** What is deflated already is not looked at again for what could be packed; groups that a report has delivered are found at once. */
export const up = `
ALTER TABLE letters ALTER COLUMN raw SET STORAGE EXTERNAL;
ALTER TABLE messages ALTER COLUMN mime SET STORAGE EXTERNAL;
ALTER TABLE parcels ALTER COLUMN lines SET STORAGE EXTERNAL;
ALTER TABLE parcel_lines ALTER COLUMN lines SET STORAGE EXTERNAL;
ALTER TABLE run_lines ALTER COLUMN lines SET STORAGE EXTERNAL;
ALTER TABLE edition_pieces ALTER COLUMN data SET STORAGE EXTERNAL;
ALTER TABLE edition_changes ALTER COLUMN data SET STORAGE EXTERNAL;
CREATE INDEX ledger_report_group ON ledger (report, group_key);
`;
