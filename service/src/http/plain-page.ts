/** Pages that the service draws itself, for people without the console: no script, nothing from elsewhere. */
import { escapeHtml } from "@corbix/core/message";
import { languageNow } from "../process/languages.js";
import { nonceNow } from "./nonce.js";

const STYLE = `body{font:16px/1.5 Carlito,Calibri,Arial,sans-serif;max-width:40rem;margin:3rem auto;padding:0 1rem;color:#1c2526}li{margin:.4rem 0}span{color:#5a6b6b}a{color:#0f5c5c}`;

/** `title` and `content` are HTML already. */
export function plainPage(title: string, content: string, style = ""): string {
  return `<!DOCTYPE html><html lang="${escapeHtml(languageNow())}"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><meta name="robots" content="noindex"><title>${title}</title><style nonce="${nonceNow()}">${STYLE}${style}</style></head><body><main><h1>${title}</h1>${content}</main></body></html>`;
}
