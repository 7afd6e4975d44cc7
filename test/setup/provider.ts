/** A real provider of sign-ins (OpenID Connect) on loopback, with colleagues of an office in groups. */
import { createServer, type Server } from "node:http";
import type { AddressInfo } from "node:net";
import Provider, { errors, type KoaContextWithOIDC } from "oidc-provider";

export interface Colleague {
  readonly name: string;
  readonly email: string;
  readonly isVerified: boolean;
  groups: string[];
}

export interface TestProvider {
  readonly issuer: string;
  readonly clientId: string;
  readonly secret: string;
  readonly colleagues: Map<string, Colleague>;
  /** Somebody goes through sign-in and consent as a browser would; gives what the last address answers. */
  readonly goThrough: (
    start: string,
    who: string,
  ) => Promise<{ readonly at: string; readonly jar: Jar; readonly answer: Response }>;
  /** Signs whoever has the cookies out there, which tells everybody who wants to know. */
  readonly leave: (jar: Jar) => Promise<void>;
  readonly close: () => Promise<void>;
}

/** Cookies by the host and port they came from. */
export type Jar = Map<string, Map<string, string>>;

const CLIENT = { id: "corbix", secret: "seven-quiet-herons-wade-in-line" };

/** `service`: the address of the service whose people sign in. */
export async function testProvider(
  service: string,
  method: "client_secret_basic" | "client_secret_post" = "client_secret_basic",
): Promise<TestProvider> {
  const server = createServer();
  await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
  const issuer = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  const colleagues = new Map<string, Colleague>();
  const provider = new Provider(issuer, {
    clients: [
      {
        client_id: CLIENT.id,
        client_secret: CLIENT.secret,
        token_endpoint_auth_method: method,
        redirect_uris: [`${service}/sign-in/back`],
        backchannel_logout_uri: `${service}/sign-in/ended`,
      },
    ],
    claims: {
      openid: ["sub"],
      profile: ["name", "preferred_username"],
      email: ["email", "email_verified"],
      groups: ["groups"],
    },
    scopes: ["openid", "profile", "email", "groups"],
    pkce: { required: () => true },
    clientAuthMethods: [method],
    cookies: { keys: ["only for tests"] },
    features: {
      devInteractions: { enabled: false },
      backchannelLogout: { enabled: true },
      rpInitiatedLogout: { enabled: true },
    },
    interactions: { url: (_: unknown, interaction: { readonly uid: string }) => `/login/${interaction.uid}` },
    findAccount: (_: unknown, sub: string) => {
      const one = colleagues.get(sub);
      if (!one) return undefined;
      return {
        accountId: sub,
        claims: () => ({
          sub,
          name: one.name,
          preferred_username: sub,
          email: one.email,
          email_verified: one.isVerified,
          groups: one.groups,
        }),
      };
    },
    // Consent was given by the office.
    loadExistingGrant: async (context: KoaContextWithOIDC) => {
      const { client, session } = context.oidc;
      const grant = new context.oidc.provider.Grant({
        clientId: client?.clientId ?? "",
        accountId: session?.accountId ?? "",
      });
      grant.addOIDCScope("openid profile email groups");
      await grant.save();
      return grant;
    },
    // By itself it calls nobody on loopback.
    fetch: (url: URL | string, { dispatcher: _, ...options }: RequestInit & { dispatcher?: unknown } = {}) =>
      fetch(url, options),
  } as never);
  const answer = provider.callback();
  server.on("request", (request, response) => {
    const uid = /^\/login\/([\w-]+)$/.exec(request.url ?? "")?.[1];
    if (uid === undefined) return void answer(request, response);
    if (request.method === "GET") {
      response.setHeader("Content-Type", "text/html");
      return void response.end(
        `<!DOCTYPE html><title>Aldmoor</title><form method="post"><label>Colleague <input name="who"></label><button>Go on</button></form>`,
      );
    }
    let sent = "";
    request.on("data", (chunk: Buffer) => {
      sent += chunk.toString();
    });
    request.on("end", () => {
      const who = new URLSearchParams(sent).get("who") ?? "";
      provider
        .interactionFinished(
          request,
          response,
          colleagues.has(who) ? { login: { accountId: who } } : { error: "access_denied" },
        )
        .catch((error: unknown) => {
          response.statusCode = error instanceof errors.OIDCProviderError ? 400 : 500;
          response.end(String(error));
        });
    });
  });
  return {
    issuer,
    clientId: CLIENT.id,
    secret: CLIENT.secret,
    colleagues,
    goThrough: async (start, who) => {
      const jar: Jar = new Map();
      let at = start;
      let got = await step(jar, at);
      for (let hops = 0; hops < 20; hops++) {
        const to = got.headers.get("location");
        if (to !== null) {
          at = new URL(to, at).href;
          if (at.endsWith("/") && at.startsWith(service)) break;
          got = await step(jar, at);
        } else if (at.includes("/login/")) got = await step(jar, at, new URLSearchParams({ who }));
        else break;
      }
      return { at, jar, answer: got };
    },
    leave: async (jar) => {
      const page = await step(jar, `${issuer}/session/end`);
      const html = await page.text();
      const xsrf = /name="xsrf" value="([^"]+)"/.exec(html)?.[1] ?? "";
      await step(jar, `${issuer}/session/end/confirm`, new URLSearchParams({ xsrf, logout: "yes" }));
    },
    close: () => closeServer(server),
  };
}

async function step(jar: Jar, at: string, form?: URLSearchParams): Promise<Response> {
  const { host } = new URL(at);
  const cookies = jar.get(host) ?? new Map<string, string>();
  jar.set(host, cookies);
  const answer = await fetch(at, {
    method: form ? "POST" : "GET",
    redirect: "manual",
    headers: { Cookie: [...cookies].map(([name, value]) => `${name}=${value}`).join("; ") },
    ...(form ? { body: form } : {}),
  });
  for (const set of answer.headers.getSetCookie()) {
    const [pair = ""] = set.split(";");
    const [name = "", value = ""] = [pair.slice(0, pair.indexOf("=")), pair.slice(pair.indexOf("=") + 1)];
    if (value === "") cookies.delete(name);
    else cookies.set(name, value);
  }
  return answer;
}

function closeServer(server: Server): Promise<void> {
  server.closeAllConnections();
  return new Promise((resolve) => server.close(() => resolve()));
}
