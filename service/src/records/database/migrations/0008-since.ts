/** What each group had in the run of the period before, and what that makes of the run as a whole. */
export const up = `
ALTER TABLE parcels ADD COLUMN since json, ADD COLUMN moved double precision;
ALTER TABLE runs ADD COLUMN since json;
`;
