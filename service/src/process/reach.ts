/**
 * Where the service may call on somebody's word: files, notices and answers go to addresses that people write down, and none of these
 * leads into the network that the service stands in, unless whoever operates it has listed it. Names are looked up once, and the address
 * that was judged is the one that is called.
 */
import { lookup } from "node:dns";
import { BlockList, isIP, isIPv4, type LookupFunction } from "node:net";
import { CorbixError } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import { Agent } from "undici";

export interface Reach {
  /** Throws `NOT_ALLOWED` for an address that leads inside; a name is judged by what it is looked up as. */
  readonly check: (host: string) => void;
  /** For connections: gives addresses that may be called, and fails where there are none. */
  readonly lookup: LookupFunction;
  /** For calls by `fetch`. */
  readonly dispatcher: Agent;
}

/** Addresses that are nobody's in the open network: IANA's registries of special purposes (RFC 6890 and those after it). */
const INSIDE: readonly (readonly [address: string, bits: number])[] = [
  ["0.0.0.0", 8],
  ["10.0.0.0", 8],
  ["100.64.0.0", 10],
  ["127.0.0.0", 8],
  ["169.254.0.0", 16],
  ["172.16.0.0", 12],
  ["192.0.0.0", 24],
  ["192.0.2.0", 24],
  ["192.88.99.0", 24],
  ["192.168.0.0", 16],
  ["198.18.0.0", 15],
  ["198.51.100.0", 24],
  ["203.0.113.0", 24],
  ["224.0.0.0", 4],
  ["240.0.0.0", 4],
  ["::", 128],
  ["::1", 128],
  ["64:ff9b:1::", 48],
  ["100::", 64],
  ["2001::", 23],
  ["2001:db8::", 32],
  ["fc00::", 7],
  ["fe80::", 10],
  ["ff00::", 8],
];

/** @param listed addresses and networks inside that may be called, with commas between: `10.0.4.7, 192.168.1.0/24` */
export function openReach(listed: string | undefined): Reach {
  const inside = listOf(INSIDE);
  const open = listOf(
    (listed ?? "")
      .split(",")
      .map((one) => one.trim())
      .filter(Boolean)
      .map((one) => {
        const [address = "", bits] = one.split("/");
        return [address, bits === undefined ? (isIPv4(address) ? 32 : 128) : Number(bits)] as const;
      }),
  );
  const mayBe = (address: string): boolean => {
    const plain = plainAddress(address);
    const family = isIPv4(plain) ? "ipv4" : "ipv6";
    return open.check(plain, family) || !inside.check(plain, family);
  };
  const check = (host: string): void => {
    const address = host.replace(/^\[|\]$/g, "");
    if (isIP(address) !== 0 && !mayBe(address)) throw leadsInside(host);
  };
  const guarded: LookupFunction = (host, options, done) => {
    lookup(host, { ...options, all: true }, (error, found) => {
      if (error) return done(error, "", 0);
      const may = found.filter(({ address }) => mayBe(address));
      const [first] = may;
      if (!first) return done(Object.assign(leadsInside(host), { code: "ENOTFOUND" }) as never, "", 0);
      if (options.all) return (done as (error: null, all: typeof may) => void)(null, may);
      done(null, first.address, first.family);
    });
  };
  return { check, lookup: guarded, dispatcher: new Agent({ connect: { lookup: guarded } }) };
}

function listOf(networks: readonly (readonly [address: string, bits: number])[]): BlockList {
  const list = new BlockList();
  for (const [address, bits] of networks) list.addSubnet(address, bits, isIPv4(address) ? "ipv4" : "ipv6");
  return list;
}

/** An address of the old protocol that is written as one of the new: mapped (RFC 4291, 2.5.5.2) or translated (RFC 6052). */
function plainAddress(address: string): string {
  const own = address.replace(/%.*$/, "").toLowerCase();
  const dotted = /^(?:::ffff:|64:ff9b::)(\d+\.\d+\.\d+\.\d+)$/.exec(own)?.[1];
  if (dotted) return dotted;
  const [, high, low] = /^(?:::ffff:|64:ff9b::)([0-9a-f]{1,4}):([0-9a-f]{1,4})$/.exec(own) ?? [];
  if (high === undefined || low === undefined) return own;
  const [a, b] = [Number.parseInt(high, 16), Number.parseInt(low, 16)];
  return `${a >> 8}.${a & 255}.${b >> 8}.${b & 255}`;
}

function leadsInside(host: string): CorbixError {
  return new CorbixError("NOT_ALLOWED", say().serviceProcess.leadsInside({ host }), {
    where: host,
    advice: say().serviceProcess.listInside(),
  });
}
