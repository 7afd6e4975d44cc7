/** Ways out besides mail: they stand beside the sending identities, and what goes by them beside the messages. */
export const up = `
ALTER TABLE identities ADD COLUMN kind text NOT NULL DEFAULT 'mail' CHECK (kind IN ('mail', 'way'));
ALTER TABLE messages ADD COLUMN way text, ADD COLUMN carried json, ADD CONSTRAINT messages_carried CHECK ((way IS NULL) = (carried IS NULL));
ALTER TABLE parcels ADD COLUMN ways json NOT NULL DEFAULT '[]';
`;
