import { sha256 } from '@noble/hashes/sha2';
import { bytesToHex } from '@noble/hashes/utils';

/**
 * FNV-1a (Fowler, Noll and Vo), 32 bits, over the UTF-16 units of a text, as hexadecimal digits. It tells a change or a slip of copying, not a forger; two
 * texts agree by chance once in four thousand million.
 */
export function fnv1a(text: string): string {
  let hash = 0x811c9dc5;
  for (let i = 0; i < text.length; i++) hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193);
  return (hash >>> 0).toString(16);
}

/** SHA-256 of bytes, as hexadecimal digits: two documents that agree are the same document. */
export const sha256Hex = (bytes: Uint8Array): string => bytesToHex(sha256(bytes));
