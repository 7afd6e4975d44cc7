/** Reports that are asked: who may ask without a sign-in, what was asked, and what was taken out. */
export const up = `
CREATE TABLE colleagues (
  id serial PRIMARY KEY, name text NOT NULL UNIQUE, digest text NOT NULL UNIQUE, reports json, created_by text NOT NULL,
  created_at timestamptz NOT NULL DEFAULT now(), used_at timestamptz
);
CREATE TABLE questions (
  id text PRIMARY KEY, report text NOT NULL, version int NOT NULL, editions json NOT NULL, day int NOT NULL, given json NOT NULL, filled json NOT NULL,
  found int NOT NULL, rows int NOT NULL, asked_by text NOT NULL, colleague_id int, asked_at timestamptz NOT NULL, number bigserial NOT NULL UNIQUE
);
CREATE INDEX questions_report ON questions (report, number);
CREATE INDEX questions_colleague ON questions (colleague_id, number) WHERE colleague_id IS NOT NULL;
-- Each file that was made of an answer.
CREATE TABLE answers (
  question_id text NOT NULL REFERENCES questions ON DELETE CASCADE, form text NOT NULL, kind text NOT NULL, row int, sha256 text NOT NULL, size int NOT NULL,
  made_by text NOT NULL, made_at timestamptz NOT NULL
);
CREATE INDEX answers_question ON answers (question_id);
`;
