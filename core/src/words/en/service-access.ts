export const serviceAccess = {
  cannotSignTooManyTries: () => "Cannot sign in: too many tries.",
  waitMinute: () => "Wait a minute.",
  cannotSignNamePasswordWrong: () => "Cannot sign in: name or password is wrong.",
  firstSignKeptSignJson: () => "The first sign-in is kept in sign-in.json in the data folder.",
  cannotReadKeptPasswordSealed: () => "Cannot read a kept password: it was sealed with another key.",
  restoreKeySetPasswordAnew: () => "Restore the key, or set the password anew.",
};
