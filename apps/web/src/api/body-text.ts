/** The text of a body; `heard` says how many bytes have come. */
export async function textOf(
  body: ReadableStream<Uint8Array>,
  heard: (bytes: number) => void,
): Promise<string> {
  const reader = body.getReader();
  const decoder = new TextDecoder();
  const parts: string[] = [];
  let bytes = 0;
  for (;;) {
    const { done, value } = await reader.read();
    if (done) break;
    bytes += value.byteLength;
    parts.push(decoder.decode(value, { stream: true }));
    heard(bytes);
  }
  parts.push(decoder.decode());
  return parts.join('');
}
