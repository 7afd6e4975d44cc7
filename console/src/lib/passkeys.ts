/** Passkeys in the browser: made and used by it, with what the service says. */
import {
  type PublicKeyCredentialCreationOptionsJSON,
  type PublicKeyCredentialRequestOptionsJSON,
  startAuthentication,
  startRegistration,
} from "@simplewebauthn/browser";
import { api } from "./client";

/** Signs in by whatever passkey the browser has for this address. Fails where somebody thinks better of it. */
export async function signInByPasskey(): Promise<void> {
  const { options, state } = await api.post("/session/passkey/options");
  const response = await startAuthentication({
    optionsJSON: options as unknown as PublicKeyCredentialRequestOptionsJSON,
  });
  await api.post("/session/passkey", { body: { state, response: { ...response } } });
}

/** Makes a passkey; gives recovery codes where these are the first. */
export async function makePasskey(name: string, password: string | undefined): Promise<readonly string[]> {
  const { options, state } = await api.post("/self/passkeys/options", {
    body: password === undefined ? {} : { password },
  });
  const response = await startRegistration({
    optionsJSON: options as unknown as PublicKeyCredentialCreationOptionsJSON,
  });
  const made = await api.post("/self/passkeys", { body: { state, name, response: { ...response } } });
  return made.recoveryCodes;
}
