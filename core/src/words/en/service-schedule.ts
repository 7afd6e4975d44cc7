export const serviceSchedule = {
  editionDeliveredAlready: ({ number, data }: { number: number; data: string }) =>
    `Edition ${number} of ${data} was delivered already.`,
  loadNewerSayReportMay: () => "Load a newer one, or say in the report what may happen once.",
};
