/** The certificate that the service shows, read again when its files change: whoever renews it need not end the service. */
import { readFileSync, statSync } from "node:fs";
import { createSecureContext, type SecureContextOptions } from "node:tls";
import { CorbixError, wordsOf } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import type { Settings } from "./settings.js";

export interface Certificates {
  readonly options: SecureContextOptions;
  /** Calls back with others whenever the files have changed and can be used; gives the function that ends it. */
  readonly watch: (changed: (options: SecureContextOptions) => void, failed: (why: string) => void) => () => void;
}

/** The files are looked at so often. */
const LOOK_MS = 60_000;

/** `undefined` where none is given. Throws `BAD_SETTING` for files that cannot be read, or do not belong together. */
export function openCertificates(
  { tlsCertificate, tlsKey }: Pick<Settings, "tlsCertificate" | "tlsKey">,
  lookMs = LOOK_MS,
): Certificates | undefined {
  if (tlsCertificate === undefined && tlsKey === undefined) return undefined;
  if (tlsCertificate === undefined || tlsKey === undefined)
    throw new CorbixError("BAD_SETTING", say().serviceProcess.certificateAndKey(), {
      where: tlsKey === undefined ? "CORBIX_TLS_KEY" : "CORBIX_TLS_CERTIFICATE",
      advice: say().serviceProcess.giveBoth(),
    });
  const read = (): SecureContextOptions => {
    const options = { cert: readFileSync(tlsCertificate), key: readFileSync(tlsKey), minVersion: "TLSv1.2" as const };
    createSecureContext(options);
    return options;
  };
  const stamp = (): string => [tlsCertificate, tlsKey].map((path) => statSync(path).mtimeMs).join(" ");
  let options: SecureContextOptions;
  let known: string;
  try {
    known = stamp();
    options = read();
  } catch (cause) {
    throw new CorbixError("BAD_SETTING", say().serviceProcess.cannotUseCertificate({ why: wordsOf(cause) }), {
      where: `${tlsCertificate}, ${tlsKey}`,
      advice: say().serviceProcess.correctCertificate(),
      cause,
    });
  }
  return {
    options,
    watch: (changed, failed) => {
      const timer = setInterval(() => {
        try {
          const now = stamp();
          if (now === known) return;
          changed(read());
          known = now;
        } catch (error) {
          // The one before goes on: files may be written one after the other.
          failed(wordsOf(error));
        }
      }, lookMs);
      timer.unref();
      return () => clearInterval(timer);
    },
  };
}
