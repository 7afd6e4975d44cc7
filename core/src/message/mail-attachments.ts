/** How files hang on a message. */
import { detectMimeType } from "nodemailer/lib/mime-funcs/mime-types.js";
import { pictureId } from "./body.js";
import { CONTENT_TYPES } from "./envelope.js";
import type { MailAttachment } from "./mime.js";

/** A file made for the group, by its path in the run. */
export function madeAttachment(path: string, kind: keyof typeof CONTENT_TYPES, sha256: string): MailAttachment {
  return { filename: path.slice(path.lastIndexOf("/") + 1), contentType: CONTENT_TYPES[kind], sha256 };
}

/** A file that was not made of the group's rows. */
export function enclosedAttachment(filename: string, sha256: string): MailAttachment {
  return { filename, contentType: detectMimeType(filename), sha256, isEnclosed: true };
}

/** A picture shown in the text. */
export function pictureAttachment(filename: string, sha256: string): MailAttachment {
  const contentType = /\.png$/i.test(filename) ? "image/png" : "image/jpeg";
  return { filename, contentType, sha256, cid: pictureId(filename) };
}
