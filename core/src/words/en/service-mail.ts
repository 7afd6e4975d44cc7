export const serviceMail = {
  cannotFindSendingIdentity: ({ name }: { name: string }) => `Cannot find the sending identity \`${name}\`.`,
  cannotSignMessagesWithoutPrivate: () => "Cannot sign messages without a private key.",
  identityDkim: ({ name }: { name: string }) => `identity ${name}, dkim`,
  giveKeyPemTakeSignature: () => "Give the key as PEM, or take the signature out.",
  mayNotBegin: () => "it may not begin",
  lineCannotEncrypted: ({ said }: { said: string }) => `the line cannot be encrypted: ${said}`,
  connectionBrokeAfterWholeMessage: ({ response }: { response: string }) =>
    `the connection broke after the whole message was handed over and before the server answered (${response}): it may have arrived or not`,
};
