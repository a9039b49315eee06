/** Asks the made-up world, or does something in it. */
export async function call<T>(path: string, body?: unknown): Promise<T> {
  const response = await fetch(
    `/api/demo/${path}`,
    body ? { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) } : undefined,
  );
  const answer: unknown = await response.json();
  if (!response.ok) throw new Error((answer as { detail?: string }).detail ?? 'no answer');
  return answer as T;
}
