/** Names that reports, datasets and templates had before, and what was put away: archived, or deleted and kept only for its runs. */
export const up = `
CREATE TABLE former_names (
  kind text NOT NULL CHECK (kind IN ('reports', 'datasets', 'templates')), name text NOT NULL, leads_to text NOT NULL,
  at timestamptz NOT NULL DEFAULT now(), PRIMARY KEY (kind, name)
);
CREATE TABLE put_away (
  kind text NOT NULL CHECK (kind IN ('reports', 'datasets', 'templates')), name text NOT NULL, state text NOT NULL CHECK (state IN ('archived', 'deleted')),
  by text NOT NULL, at timestamptz NOT NULL DEFAULT now(), PRIMARY KEY (kind, name)
);
ALTER TABLE runs DROP CONSTRAINT runs_report_fkey,
  ADD CONSTRAINT runs_report_fkey FOREIGN KEY (report, report_version) REFERENCES report_versions (name, number) ON UPDATE CASCADE;
`;
