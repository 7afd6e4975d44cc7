export const serviceThreads = {
  cannotPrintNothing: () => "Cannot print nothing.",
  moreMibMemory: ({ heapMiB }: { heapMiB: number }) => `more than ${heapMiB} MiB of memory`,
  moreThreadEnded: () => "more than there is: its thread ended",
  moreSeconds: ({ seconds }: { seconds: number }) => `more than ${seconds} seconds`,
  cannotFinishTakes: ({ what }: { what: string }) => `Cannot finish this: it takes ${what}.`,
  makeDefinitionTemplateSmaller: () => "Make the definition or the template smaller, or raise CORBIX_ANSWER_SECONDS.",
  cannotFinishReadingTableTakes: ({ what }: { what: string }) => `Cannot finish reading the table: it takes ${what}.`,
  loadPartsRaiseCorbixIntake: () => "Load it in parts, or raise CORBIX_INTAKE_MEMORY or CORBIX_INTAKE_SECONDS.",
  amongRowsFound: () => "not among the rows found",
};
