/** What the page's own policy asks of scripts: styles of editors bear its nonce, and no text becomes a script. */

/** By which the styles that editors make are known as ours. */
export const styleNonce =
  globalThis.document?.querySelector<HTMLMetaElement>('meta[name="style-nonce"]')?.content ?? "";

interface Factory {
  createPolicy(
    name: string,
    rules: { createScriptURL?: (url: string) => string; createHTML?: (html: string) => string },
  ): { createHTML(html: string): string };
}
const factory = (globalThis as { trustedTypes?: Factory }).trustedTypes;

/** Addresses of scripts, such as that of the worker which draws PDFs, are our own files; a text never becomes HTML or code by itself. */
export function setPagePolicy(): void {
  factory?.createPolicy("default", {
    createScriptURL: (url) => {
      if (new URL(url, location.href).origin === location.origin) return url;
      throw new TypeError(url);
    },
  });
}

const parsed = factory?.createPolicy("corbix-parsed", { createHTML: (html) => html });

/** An HTML text as a document that is shown nowhere: nothing of it runs or is fetched. */
export function parsedHtml(html: string): Document {
  return new DOMParser().parseFromString(parsed ? parsed.createHTML(html) : html, "text/html");
}
