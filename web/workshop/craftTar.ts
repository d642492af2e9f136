/** Whether a file is a tar: its sign stands at a fixed place. */
export async function isTar(file: Blob): Promise<boolean> {
  return (await file.slice(257, 262).text()) === "ustar";
}
