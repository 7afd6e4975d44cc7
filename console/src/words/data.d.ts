/** The languages there are catalogues of; written by the build. */
export declare const locales: readonly string[];
