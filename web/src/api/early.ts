/**
 * What `public/early.js` asked for before the scripts were there, by method and path.
 *
 * Each answer is handed out once: whoever asks again asks the server.
 */
declare global {
  var oddkettleEarly: Map<string, Promise<Response>> | undefined;
}

export function takeEarly(request: Request): Promise<Response> | null {
  const asked = globalThis.oddkettleEarly;
  if (!asked) return null;
  const { pathname, search } = new URL(request.url);
  const key = `${request.method} ${pathname}${search}`;
  const answer = asked.get(key);
  asked.delete(key);
  return answer ?? null;
}
