/** What a call needs to send a file as it is: its bytes, and what kind of file it is. */
export async function upload(file: File, type: string) {
  const bytes = await file.arrayBuffer();
  return {
    body: file.name,
    bodySerializer: () => bytes,
    headers: { "content-type": type },
  };
}

/** The same of text that is in hand already. */
export function uploadText(text: string, type: string) {
  return { body: text, bodySerializer: () => text, headers: { "content-type": type } };
}
