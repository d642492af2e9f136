/** Share of the bytes of a text in UTF-16 that are zero on one side, at least: Latin letters have one each. */
const ZEROS = 0.3;

/**
 * The text of a file: UTF-8, UTF-16 of either order (with its mark or without), or Windows-1252 where an older
 * spreadsheet saved it. Marks at its start are left out.
 */
export function decoded(bytes: Uint8Array): string {
  const [a, b] = bytes;
  const zeros = (side: 0 | 1) => {
    const head = bytes.subarray(0, 2000);
    return head.filter((byte, k) => k % 2 === side && byte === 0).length / Math.max(1, head.length / 2);
  };
  if ((a === 0xff && b === 0xfe) || zeros(1) > ZEROS) return new TextDecoder("utf-16le").decode(bytes);
  if ((a === 0xfe && b === 0xff) || zeros(0) > ZEROS) return new TextDecoder("utf-16be").decode(bytes);
  const utf8 = new TextDecoder("utf-8").decode(bytes);
  // UTF-8 leaves replacement marks in what is Windows-1252.
  return utf8.includes("\uFFFD") ? new TextDecoder("windows-1252").decode(bytes) : utf8;
}
