/** The sample world refuses nothing to itself. */
export async function must<T>(
  result: Promise<{ ok: true; value: T } | { ok: false; error: unknown }>,
): Promise<T> {
  const settled = await result;
  if (!settled.ok) throw new Error(JSON.stringify(settled.error));
  return settled.value;
}
