/** What a sender's domain says in the DNS of who may send for it: SPF (RFC 7208), DKIM (RFC 6376), DMARC (RFC 7489). */
import { createPrivateKey, createPublicKey } from "node:crypto";
import { say } from "@corbix/core/words";

export interface Judged {
  readonly state: "ok" | "warn" | "fail";
  readonly what: string;
  readonly advice: string | null;
}

/** @param records the texts at the domain, each with its pieces joined */
export function judgeSpf(domain: string, records: readonly string[]): Judged {
  const own = records.filter((one) => /^v=spf1(?: |$)/i.test(one));
  const [record] = own;
  if (record === undefined)
    return { state: "warn", what: say().serviceMail.noSpf({ domain }), advice: say().serviceMail.addSpf({ domain }) };
  if (own.length > 1)
    return { state: "fail", what: say().serviceMail.manySpf({ domain }), advice: say().serviceMail.joinSpf() };
  const terms = record.split(/\s+/).slice(1);
  const lookups = terms.filter((term) =>
    /^[+?~-]?(?:include:|a(?:[:/]|$)|mx(?:[:/]|$)|ptr|exists:)|^redirect=/i.test(term),
  );
  if (lookups.length > MOST_LOOKUPS)
    return {
      state: "fail",
      what: say().serviceMail.longSpf({ domain, count: lookups.length }),
      advice: say().serviceMail.joinSpf(),
    };
  if (terms.some((term) => /^\+?all$/i.test(term)))
    return { state: "fail", what: say().serviceMail.openSpf({ domain }), advice: say().serviceMail.closeSpf() };
  return { state: "ok", what: say().serviceMail.isSpf({ domain, record }), advice: say().serviceMail.seeServerInSpf() };
}

/** A record that asks for more is in error (RFC 7208, 4.6.4). */
const MOST_LOOKUPS = 10;

/** @param records the texts at `selector._domainkey.domain` */
export function judgeDkim(
  { domain, selector, privateKey }: { readonly domain: string; readonly selector: string; readonly privateKey: string },
  records: readonly string[],
): Judged {
  const place = `${selector}._domainkey.${domain}`;
  const record = records.find((one) => /(?:^|;)\s*p=/i.test(one));
  const shown = publicPart(privateKey);
  const advice = say().serviceMail.addDkim({ place, record: `v=DKIM1; k=${shown.kind}; p=${shown.key}` });
  if (record === undefined) return { state: "fail", what: say().serviceMail.noDkim({ place }), advice };
  const key = /(?:^|;)\s*p=([^;]*)/i.exec(record)?.[1]?.replace(/\s/g, "") ?? "";
  if (key === "") return { state: "fail", what: say().serviceMail.endedDkim({ place }), advice };
  return key === shown.key
    ? { state: "ok", what: say().serviceMail.isDkim({ place }), advice: null }
    : { state: "fail", what: say().serviceMail.otherDkim({ place }), advice };
}

/** The public key as the DNS has it: of RSA its SubjectPublicKeyInfo, of Ed25519 its 32 bytes (RFC 8463). */
function publicPart(privateKey: string): { kind: string; key: string } {
  const own = createPublicKey(createPrivateKey(privateKey));
  const der = own.export({ type: "spki", format: "der" });
  return own.asymmetricKeyType === "ed25519"
    ? { kind: "ed25519", key: der.subarray(-32).toString("base64") }
    : { kind: "rsa", key: der.toString("base64") };
}

/** @param records the texts at `_dmarc.domain` */
export function judgeDmarc(domain: string, records: readonly string[], isSigned: boolean): Judged {
  const record = records.find((one) => /^v=DMARC1(?:;|\s|$)/i.test(one));
  if (record === undefined)
    return {
      state: "warn",
      what: say().serviceMail.noDmarc({ domain }),
      advice: say().serviceMail.addDmarc({ domain }),
    };
  const policy = /(?:^|;)\s*p=(\w+)/i.exec(record)?.[1]?.toLowerCase() ?? "none";
  if (policy !== "none" && !isSigned)
    return {
      state: "warn",
      what: say().serviceMail.isDmarc({ domain, policy }),
      advice: say().serviceMail.signForDmarc(),
    };
  return { state: "ok", what: say().serviceMail.isDmarc({ domain, policy }), advice: null };
}
