/** Files that grow keep a section for each period that is new in them; lines of a run and of its parcels are of a period. */
export const up = `
CREATE TABLE file_sections (
  file_id bigint NOT NULL REFERENCES files ON DELETE CASCADE, period text NOT NULL, sha256 text NOT NULL REFERENCES blobs,
  PRIMARY KEY (file_id, period)
);
INSERT INTO file_sections (file_id, period, sha256) SELECT files.id, runs.period, files.section FROM files JOIN runs ON runs.id = files.run_id WHERE files.section IS NOT NULL;
CREATE INDEX file_sections_sha256 ON file_sections (sha256);
ALTER TABLE files DROP COLUMN section;

ALTER TABLE run_lines ADD COLUMN period text NOT NULL DEFAULT '';
ALTER TABLE run_lines DROP CONSTRAINT run_lines_pkey, ADD PRIMARY KEY (run_id, period, name);
ALTER TABLE parcel_lines ADD COLUMN period text NOT NULL DEFAULT '';
ALTER TABLE parcel_lines DROP CONSTRAINT parcel_lines_pkey, ADD PRIMARY KEY (parcel_id, period, name);
`;
