/** Ways out besides mail: they stand beside the sending identities, and what goes by them beside the messages. Figures of runs that others go by. */
export const up = `
ALTER TABLE identities ADD COLUMN kind text NOT NULL DEFAULT 'mail' CHECK (kind IN ('mail', 'way'));
ALTER TABLE messages ADD COLUMN way text, ADD COLUMN carried json, ADD CONSTRAINT messages_carried CHECK ((way IS NULL) = (carried IS NULL));
ALTER TABLE runs ADD COLUMN figures_due boolean NOT NULL DEFAULT false;
CREATE INDEX runs_figures_due ON runs (id) WHERE figures_due;
ALTER TABLE parcels ADD COLUMN ways json NOT NULL DEFAULT '[]';
`;
