/** Bytes changed in one of the ways in which files are: by a failing disk, a cut transfer, an editor, a hand. */
const ways: Readonly<Record<string, (bytes: Uint8Array, random: () => number) => Uint8Array>> = {
  bit: (bytes, random) => {
    const at = Math.floor(random() * bytes.length * 8);
    return bytes.map((byte, i) => (i === at >> 3 ? byte ^ (1 << (at & 7)) : byte));
  },
  byte: (bytes, random) => {
    const at = Math.floor(random() * bytes.length);
    return bytes.map((byte, i) => (i === at ? Math.floor(random() * 256) : byte));
  },
  cut: (bytes, random) => bytes.slice(0, Math.floor(random() * bytes.length)),
  hole: (bytes, random) => {
    const at = Math.floor(random() * bytes.length);
    const size = 1 + Math.floor(random() * Math.min(4096, bytes.length - at));
    return Uint8Array.from([...bytes.subarray(0, at), ...bytes.subarray(at + size)]);
  },
  zeros: (bytes, random) => {
    const at = Math.floor(random() * bytes.length);
    const size = 1 + Math.floor(random() * 512);
    return bytes.map((byte, i) => (i >= at && i < at + size ? 0 : byte));
  },
  twice: (bytes, random) => {
    const at = Math.floor(random() * bytes.length);
    const part = bytes.subarray(at, at + 1 + Math.floor(random() * 512));
    return Uint8Array.from([...bytes.subarray(0, at), ...part, ...bytes.subarray(at)]);
  },
  swapped: (bytes, random) => {
    const size = 1 + Math.floor(random() * 64);
    const [a, b] = [Math.floor(random() * bytes.length), Math.floor(random() * bytes.length)];
    const copy = bytes.slice();
    copy.set(bytes.subarray(b, b + size).subarray(0, copy.length - a), a);
    copy.set(bytes.subarray(a, a + size).subarray(0, copy.length - b), b);
    return copy;
  },
  noise: (bytes, random) => Uint8Array.from([...bytes, ...Array.from({ length: 1 + Math.floor(random() * 64) }, () => Math.floor(random() * 256))]),
};
const names = Object.keys(ways);

/** A changed copy, and how it was changed. */
export function mutated(bytes: Uint8Array, random: () => number): { readonly way: string; readonly bytes: Uint8Array } {
  const way = names[Math.floor(random() * names.length)] ?? 'bit';
  return { way, bytes: ways[way]?.(bytes, random) ?? bytes };
}

/** A text with one slip: a letter left out, doubled, exchanged or put in, where a hand would make it. */
export function slipped(text: string, random: () => number): string {
  const at = Math.floor(random() * text.length);
  const letter = 'abcdefghijklmnopqrstuvwxyz0123456789.,:"{}[]-'[Math.floor(random() * 45)] ?? 'x';
  switch (Math.floor(random() * 4)) {
    case 0:
      return text.slice(0, at) + text.slice(at + 1);
    case 1:
      return text.slice(0, at) + (text[at] ?? '') + text.slice(at);
    case 2:
      return text.slice(0, at) + letter + text.slice(at + 1);
    default:
      return text.slice(0, at) + letter + text.slice(at);
  }
}
