/** Whether a file begins as a JPEG or a PNG does: what is neither is said at once, and not kept to be refused later. */
export async function isPicture(file: Blob): Promise<boolean> {
  const start = new Uint8Array(await file.slice(0, 8).arrayBuffer());
  const begins = (...bytes: number[]) => bytes.every((byte, i) => start[i] === byte);
  return begins(0xff, 0xd8, 0xff) || begins(0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a);
}
