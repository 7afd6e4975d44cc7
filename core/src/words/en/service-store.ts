export const serviceStore = {
  cannotStoreFileSpaceLeft: () => "Cannot store the file: no space is left where the data folder lies.",
  fileStore: () => "file store",
  nothingKeptMakeRoomThen: () =>
    "Nothing of it was kept. Make room, then try again; runs that wait for it go on by themselves.",
  cannotReachFileStore: ({ message }: { message: string }) => `Cannot reach the file store: ${message}.`,
  seeDataFolderCanWritten: () =>
    "See that the data folder is there and can be written; runs that wait for it go on by themselves.",
  cannotReadFileDigest: () => "Cannot read a file by this digest.",
  cannotReadStoredFile: ({ digest }: { digest: string }) => `Cannot read the stored file ${digest}…: it is not there.`,
  seeCorbixVerifySaysRestore: () => "See what corbix verify says, and restore the data folder from a backup.",
  cannotStoreFileReadsOtherwise: () => "Cannot store the file: it reads otherwise than it was written.",
  seeDiskWellNothingKept: () => "See that the disk is well. Nothing was kept.",
  cannotUseStoredFileBytes: ({ digest }: { digest: string }) =>
    `Cannot use the stored file ${digest}…: its bytes were changed.`,
  loadSameFileAgainHeals: () => "Load the same file again, which heals it, or restore the data folder from a backup.",
  cannotTakeFileOverLimit: ({ limit }: { limit: number }) =>
    `Cannot take the file: it is over the limit of ${limit} bytes.`,
  raiseCorbixUploadLimitSend: () => "Raise CORBIX_UPLOAD_LIMIT, or send a smaller file.",
};
