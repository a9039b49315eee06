import { accepted, answered, api } from '../../api/client';

/** The browser's part of Web Authentication, as JSON both ways; older browsers have only the part that speaks bytes. */
interface JsonCredentials {
  parseCreationOptionsFromJSON(options: unknown): PublicKeyCredentialCreationOptions;
  parseRequestOptionsFromJSON(options: unknown): PublicKeyCredentialRequestOptions;
}

const credentials = () => (window as { PublicKeyCredential?: unknown }).PublicKeyCredential as JsonCredentials | undefined;

/** Whether this browser can: it must be trusted, and speak JSON. */
export const canPasskey = () => window.isSecureContext && typeof credentials()?.parseRequestOptionsFromJSON === 'function';

const said = (credential: Credential | null) => {
  if (!credential) throw new Error();
  return JSON.stringify((credential as PublicKeyCredential & { toJSON(): unknown }).toJSON());
};

/** Makes one on this device for who is signed in. */
export async function makePasskey(name: string) {
  const ask = await answered(api.POST('/api/access/passkeys/ask'));
  const publicKey = credentials()!.parseCreationOptionsFromJSON(JSON.parse(ask.options));
  const credential = said(await navigator.credentials.create({ publicKey }));
  await accepted(api.POST('/api/access/passkeys', { body: { id: ask.id, credential, name } }));
}

/** Signs in by one. */
export async function signInByPasskey() {
  const ask = await answered(api.POST('/api/access/passkeys/sign-in/ask'));
  const publicKey = credentials()!.parseRequestOptionsFromJSON(JSON.parse(ask.options));
  const credential = said(await navigator.credentials.get({ publicKey }));
  return answered(api.POST('/api/access/passkeys/sign-in', { body: { id: ask.id, credential, name: '' } }));
}
