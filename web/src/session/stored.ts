/** A value in the browser's own store; undefined where nothing is there, or what is there cannot be read. */
export function readStored(key: string): unknown {
  try {
    return (JSON.parse(localStorage.getItem(key) ?? 'null') as unknown) ?? undefined;
  } catch {
    return undefined;
  }
}

/** Keeps a value; undefined puts it away. Where there is no room, what stands on the screen is all there is, and saving says so. */
export function writeStored(key: string, value: unknown) {
  try {
    if (value === undefined) localStorage.removeItem(key);
    else localStorage.setItem(key, JSON.stringify(value));
  } catch {
    // No room: it holds until this page is closed.
  }
}
