/** What the browser asks a device: for a new passkey, or for one that is there. Fetched when it is first wanted. */

import type {
  PublicKeyCredentialCreationOptionsJSON,
  PublicKeyCredentialRequestOptionsJSON,
} from "@simplewebauthn/browser";

export type Credential = Record<string, unknown>;

/** Whether passkeys can be asked for here: by this browser, at an address with a name (they are bound to it). */
export function knowsPasskeys(): boolean {
  const isNumber = /^[\d.]+$|:/.test(location.hostname);
  return typeof window.PublicKeyCredential === "function" && window.isSecureContext && !isNumber;
}

/** Thrown where nothing was chosen on the device, or it took too long. */
export class NothingChosen extends Error {
  constructor() {
    super("Nothing was chosen on your device. Try again.");
  }
}

async function asked<T>(ask: () => Promise<T>): Promise<Credential> {
  try {
    return (await ask()) as Credential;
  } catch (error) {
    if (error instanceof Error && ["NotAllowedError", "AbortError"].includes(error.name)) throw new NothingChosen();
    if (error instanceof Error && error.name === "InvalidStateError")
      throw new Error("This device has a passkey of yours for Dakika already.");
    throw error;
  }
}

export async function newPasskey(options: Record<string, unknown>): Promise<Credential> {
  const { startRegistration } = await import("@simplewebauthn/browser");
  return asked(() => startRegistration({ optionsJSON: options as unknown as PublicKeyCredentialCreationOptionsJSON }));
}

export async function knownPasskey(options: Record<string, unknown>): Promise<Credential> {
  const { startAuthentication } = await import("@simplewebauthn/browser");
  return asked(() => startAuthentication({ optionsJSON: options as unknown as PublicKeyCredentialRequestOptionsJSON }));
}
