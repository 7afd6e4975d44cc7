export const serviceAccess = {
  senderTooOften: ({ perMinute }: { perMinute: number }) =>
    `Cannot take more than ${perMinute} ${perMinute === 1 ? "call" : "calls"} a minute from this sender.`,
  senderWait: ({ seconds }: { seconds: number }) => `Try again in ${seconds} ${seconds === 1 ? "second" : "seconds"}.`,
  cannotSignTooManyTries: () => "Cannot sign in: too many tries.",
  waitMinute: () => "Wait a minute.",
  cannotSignNamePasswordWrong: () => "Cannot sign in: name or password is wrong.",
  role: ({ role }: { role: "look" | "prepare" | "release" | "operate" | "ask" }) =>
    ({
      look: "look",
      prepare: "prepare data, recipients, templates and reports",
      release: "release",
      operate: "operate",
      ask: "ask",
    })[role],
  mayNot: ({ roles, isForSome }: { roles: readonly string[]; isForSome: boolean }) =>
    isForSome
      ? `You may ${roles.join(" or ")} for some reports only, and this is not of one of them.`
      : `You may not do this: it takes somebody who may ${roles.join(" or ")}.`,
  mayNotUse: ({ name }: { name: string }) => `You may not use \`${name}\`: none of your reports is made from it.`,
  askOperator: () => "Ask somebody who may operate to let you.",
  askColleague: () => "Ask a colleague who may operate.",
  notOneself: () => "What you may do yourself is for somebody else to change.",
  nobodyLeft: ({ name }: { name: string }) => `Nobody but ${name} could let people in any more.`,
  letAnotherOperate: () => "Let another active person operate for all reports first.",
  cannotGiveMore: ({ role }: { role: string }) => `Cannot give more than you have: you may not ${role} as widely.`,
  cannotFindPerson: ({ name }: { name: string }) => `Cannot find the person \`${name}\`.`,
  people: () => "people",
  nameIsTaken: ({ name }: { name: string }) => `Somebody is called \`${name}\` already.`,
  chooseAnotherName: () => "Choose another name to sign in with.",
  isSwitchedOff: ({ name }: { name: string }) => `\`${name}\` is switched off.`,
  switchOnFirst: () => "Switch the person on first.",
  invitationIsOver: () => "This invitation is used, over or unknown.",
  askForAnother: () => "Ask whoever invited you for another link.",
  oldPasswordWrong: () => "The password until now is another one.",
  cannotFindToken: ({ id }: { id: number }) => `Cannot find the token ${id}.`,
  tokenTooOften: ({ perMinute }: { perMinute: number }) =>
    `Cannot take more than ${perMinute} ${perMinute === 1 ? "call" : "calls"} a minute with this token.`,
  passwordTooShort: ({ length, shortest }: { length: number; shortest: number }) =>
    `The password has ${length} characters, expected at least ${shortest}.`,
  passwordTooLong: ({ longest }: { longest: number }) => `The password is longer than ${longest} characters.`,
  passwordIsCommon: () => "The password is among those that are tried first everywhere.",
  passwordIsPattern: () => "The password is one piece repeated, or a row of signs.",
  passwordIsName: () => "The password is little more than your name or the service's.",
  chooseLongPassword: () => "Take some words that come to your mind and have nothing to do with each other.",
  firstSignKeptSignJson: () => "The first sign-in is kept in sign-in.json in the data folder.",
  cannotReadKeptPasswordSealed: () => "Cannot read a kept password: it was sealed with another key.",
  restoreKeySetPasswordAnew: () => "Restore the key, or set the password anew.",
};
