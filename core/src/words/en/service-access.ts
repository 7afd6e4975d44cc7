export const serviceAccess = {
  senderTooOften: ({ perMinute }: { perMinute: number }) =>
    `Cannot take more than ${perMinute} ${perMinute === 1 ? "call" : "calls"} a minute from this sender.`,
  senderWait: ({ seconds }: { seconds: number }) => `Try again in ${seconds} ${seconds === 1 ? "second" : "seconds"}.`,
  cannotSignTooManyTries: () => "Cannot sign in: too many tries.",
  waitMinute: () => "Wait a minute.",
  cannotSignNamePasswordWrong: () => "Cannot sign in: name or password is wrong.",
  firstSignKeptSignJson: () => "The first sign-in is kept in sign-in.json in the data folder.",
  cannotReadKeptPasswordSealed: () => "Cannot read a kept password: it was sealed with another key.",
  restoreKeySetPasswordAnew: () => "Restore the key, or set the password anew.",
};
