export const serviceMail = {
  noSpf: ({ domain }: { domain: string }) => `${domain} does not say who may send for it`,
  addSpf: ({ domain }: { domain: string }) =>
    `Add a TXT record at ${domain}, such as "v=spf1 include:YOUR-MAIL-SERVER -all".`,
  manySpf: ({ domain }: { domain: string }) => `${domain} has several SPF records, which servers take for an error`,
  joinSpf: () => "Make one record of them, with at most ten that have to be asked for.",
  longSpf: ({ domain, count }: { domain: string; count: number }) =>
    `the SPF record of ${domain} has ${count} parts that have to be asked for`,
  openSpf: ({ domain }: { domain: string }) => `the SPF record of ${domain} lets everybody send for it`,
  closeSpf: () => "Let it end with -all or ~all.",
  isSpf: ({ domain, record }: { domain: string; record: string }) => `${domain} says "${record}"`,
  seeServerInSpf: () => "See that the mail server is among those it names.",
  noDkim: ({ place }: { place: string }) => `there is no key at ${place}`,
  addDkim: ({ place, record }: { place: string; record: string }) => `Add a TXT record at ${place}: "${record}".`,
  endedDkim: ({ place }: { place: string }) => `the key at ${place} was taken back`,
  otherDkim: ({ place }: { place: string }) => `the key at ${place} is not that of the private key`,
  isDkim: ({ place }: { place: string }) => `the key at ${place} is that of the private key`,
  noDmarc: ({ domain }: { domain: string }) => `${domain} does not say what becomes of mails that fail`,
  addDmarc: ({ domain }: { domain: string }) =>
    `Add a TXT record at _dmarc.${domain}, such as "v=DMARC1; p=none; rua=mailto:postmaster@${domain}".`,
  isDmarc: ({ domain, policy }: { domain: string; policy: string }) => `${domain} asks for ${policy}`,
  signForDmarc: () => "Sign messages (DKIM): where the mail server forwards, SPF alone does not hold.",
  cannotFindSendingIdentity: ({ name }: { name: string }) => `Cannot find the sending identity \`${name}\`.`,
  cannotSignMessagesWithoutPrivate: () => "Cannot sign messages without a private key.",
  identityDkim: ({ name }: { name: string }) => `identity ${name}, dkim`,
  giveKeyPemTakeSignature: () => "Give the key as PEM, or take the signature out.",
  mayNotBegin: () => "it may not begin",
  lineCannotEncrypted: ({ said }: { said: string }) => `the line cannot be encrypted: ${said}`,
  connectionBrokeAfterWholeMessage: ({ response }: { response: string }) =>
    `the connection broke after the whole message was handed over and before the server answered (${response}): it may have arrived or not`,
};
