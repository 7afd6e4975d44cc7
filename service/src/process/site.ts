/** The address under which the service is reached: that of the settings, or the one it listens on. */
import type { Settings } from "./settings.js";

type Reached = Pick<Settings, "publicUrl" | "host" | "port" | "tlsCertificate">;

export function siteOf({ publicUrl, host, port, tlsCertificate }: Reached): string {
  return publicUrl ?? `${tlsCertificate === undefined ? "http" : "https"}://${reachedHost(host)}:${port}`;
}

/** An address that stands for all of a machine's cannot be called. */
export function reachedHost(host: string): string {
  if (host === "0.0.0.0" || host === "::") return "127.0.0.1";
  return host.includes(":") ? `[${host}]` : host;
}

/** Whether browsers come by TLS: what they keep goes over TLS only then. */
export function isByTls({ publicUrl, tlsCertificate }: Pick<Settings, "publicUrl" | "tlsCertificate">): boolean {
  return publicUrl === undefined ? tlsCertificate !== undefined : publicUrl.startsWith("https:");
}
