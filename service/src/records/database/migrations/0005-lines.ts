/** Further lines of groups: of each run what they are, of each parcel its own. Definitions from before have none. */
export const up = `
UPDATE report_versions SET definition = (left(rtrim(definition::text), -1) || ',"lines":{}}')::json
  WHERE NOT definition::jsonb ? 'lines';

CREATE TABLE run_lines (
  run_id text NOT NULL REFERENCES runs ON DELETE CASCADE, name text NOT NULL, columns json NOT NULL, lines bytea,
  PRIMARY KEY (run_id, name)
);
CREATE TABLE parcel_lines (
  parcel_id bigint NOT NULL REFERENCES parcels ON DELETE CASCADE, name text NOT NULL, lines bytea NOT NULL,
  PRIMARY KEY (parcel_id, name)
);
`;
