/** What the schema of a definition says about its fields: in English that stands in the schema itself. */
export const definition = {
  field: ({ text }: { text: string }) => text,
};
