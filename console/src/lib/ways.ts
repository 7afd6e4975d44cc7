/** Ways out as they are written in a form. */
import type { WayOut } from "./client";

export const KINDS = ["folder", "web-dav", "sftp", "http"] as const;
export type WayKind = (typeof KINDS)[number];

/** All fields of all kinds; which of them count follows from the kind. */
export interface WayForm {
  kind: WayKind;
  folder: string;
  address: string;
  host: string;
  port: number;
  user: string;
  hostKey: string;
  method: "PUT" | "POST";
  perMinute: number;
  connections: number;
  patienceHours: number;
  password: string;
  privateKey: string;
  passphrase: string;
  token: string;
}

export const BLANK_WAY: WayForm = {
  kind: "folder",
  folder: "",
  address: "",
  host: "",
  port: 22,
  user: "",
  hostKey: "",
  method: "PUT",
  perMinute: 600,
  connections: 2,
  patienceHours: 48,
  password: "",
  privateKey: "",
  passphrase: "",
  token: "",
};

const FIELDS: Readonly<Record<WayKind, readonly (keyof WayForm)[]>> = {
  folder: ["folder"],
  "web-dav": ["address", "user"],
  sftp: ["host", "port", "user", "hostKey", "folder"],
  http: ["address", "method", "user"],
};
const SECRETS: Readonly<Record<WayKind, readonly (keyof WayForm)[]>> = {
  folder: [],
  "web-dav": ["password"],
  sftp: ["password", "privateKey", "passphrase"],
  http: ["password", "token"],
};
const PACE = ["perMinute", "connections", "patienceHours"] as const;

/** @returns What is kept of a way out, as a form; secrets are never told. */
export function formOfWay(way: WayOut): WayForm {
  const told = Object.fromEntries(Object.entries(way.settings).filter(([name]) => name in BLANK_WAY));
  return { ...BLANK_WAY, ...told };
}

/** @returns A form as it is sent: what its kind has, and secrets that were written. What the form does not show stays as it was. */
export function wayAsSent(form: WayForm, before: WayOut | undefined) {
  const filled = (names: readonly (keyof WayForm)[]) =>
    Object.fromEntries(names.flatMap((name) => (form[name] === "" ? [] : [[name, form[name]]])));
  const { headers, authority, firstPause } = before?.settings ?? {};
  const isWeb = form.kind === "http" || form.kind === "web-dav";
  return {
    settings: {
      kind: form.kind,
      ...filled(FIELDS[form.kind]),
      ...filled(PACE),
      ...(form.kind === "http" && headers ? { headers } : {}),
      ...(isWeb && authority ? { authority } : {}),
      ...(firstPause === undefined ? {} : { firstPause }),
    },
    secret: filled(SECRETS[form.kind]),
  };
}

export function kindWords(kind: WayKind): string {
  const words: Record<WayKind, string> = {
    folder: "A folder here, such as a mounted share",
    "web-dav": "A WebDAV folder",
    sftp: "An SFTP server",
    http: "A web service that takes uploads",
  };
  return words[kind];
}
