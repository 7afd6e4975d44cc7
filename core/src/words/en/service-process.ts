export const serviceProcess = {
  leadsInside: ({ host }: { host: string }) => `Cannot call ${host}: it leads into the network that Corbix stands in.`,
  listInside: () => "Whoever operates Corbix can list it under reachInside.",
  certificateAndKey: () => "Cannot speak HTTPS: a certificate needs its private key, and the other way round.",
  giveBoth: () => "Set tlsCertificate and tlsKey both, or none.",
  cannotUseCertificate: ({ why }: { why: string }) => `Cannot use this certificate: ${why}.`,
  correctCertificate: () =>
    "See that both files are PEM, can be read by the user that Corbix runs under, and belong together.",
  cannotReadSettingFile: ({ why }: { why: string }) => `Cannot read the file of this setting: ${why}.`,
  correctFile: () => "Correct the path, or let the user that Corbix runs under read it.",
  cannotFindSettingsFile: () => "Cannot find the settings file.",
  correctCorbixSettings: () => "Correct CORBIX_SETTINGS.",
  cannotUseSettings: ({ describeProblems }: { describeProblems: string }) =>
    `Cannot use the settings: ${describeProblems}.`,
  or: ({ key, path, environmentName }: { key: string; path: string; environmentName: string }) =>
    key === "" ? path : `${environmentName} or ${path}`,
  allSettingsToldDocsOperating: () => "All settings are told in docs/operating.md.",
  cannotListen: ({ host, port, why }: { host: string; port: number; why: string }) =>
    `Cannot listen on ${host}:${port}: ${why}.`,
  endOtherProgramSetAnother: () => "End the other program, or set another port.",
  anotherProgramUses: () => "another program uses it",
  cannotSpeak: ({ language }: { language: string }) => `Cannot speak \`${language}\`: there are no words in it.`,
  languagesThereAre: ({ languages }: { languages: string }) => `The languages there are: ${languages}.`,
  cannotReadWords: ({ why }: { why: string }) => `Cannot read the words of a language: ${why}.`,
  writeWordsSo: () => "A file such as de.mjs exports `words`: rooms of functions, called as those in English are.",
  exportsNoWords: ({ file }: { file: string }) => `${file} exports no \`words\``,
};
