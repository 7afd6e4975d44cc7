export const serviceLetterbox = {
  cannotOpenLetterboxPort: ({ port, code, message }: { port: number; code: undefined | string; message: string }) =>
    `Cannot open the letterbox on port ${port}: ${code === "EADDRINUSE" ? "another program uses it" : message}.`,
  setAnotherPort: () => "Set another port.",
};
