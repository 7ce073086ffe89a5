import type { Table } from './master';

/**
 * Sum at the end of a frame on a serial line: CRC-16 with polynomial 0xA001, begun at 0xFFFF (MODBUS over serial line V1.02, 6.2.2).
 *
 * @example crc16(Uint8Array.of(2, 7)) // 0x1241, the example of that paper
 */
export function crc16(bytes: Uint8Array): number {
  let crc = 0xffff;
  for (const byte of bytes) {
    crc ^= byte;
    for (let k = 0; k < 8; k++) crc = crc & 1 ? (crc >> 1) ^ 0xa001 : crc >> 1;
  }
  return crc;
}

function sealed(...bytes: readonly number[]): Uint8Array<ArrayBuffer> {
  const sum = crc16(Uint8Array.from(bytes));
  return Uint8Array.of(...bytes, sum & 0xff, sum >> 8);
}

const functionOf: Readonly<Record<Table, number>> = { holding: 3, input: 4 };
const writeOne = 6;
/** Set in the function of an answer that says no. */
const refusal = 0x80;

/** The question for `count` words of a unit. */
export const readFrame = (unit: number, register: number, count: number, table: Table): Uint8Array<ArrayBuffer> =>
  sealed(unit, functionOf[table], register >> 8, register & 0xff, count >> 8, count & 0xff);

/** The order to set one word of a unit. */
export const writeFrame = (unit: number, register: number, value: number): Uint8Array<ArrayBuffer> =>
  sealed(unit, writeOne, register >> 8, register & 0xff, value >> 8, value & 0xff);

/** What has come so far, read as an answer to a question. */
export type Answer =
  | { readonly kind: 'values'; readonly values: readonly number[] }
  | { readonly kind: 'written' }
  | { readonly kind: 'refused'; readonly code: number }
  /** Nothing that answers it yet; `text` says what there is, for when no more comes. */
  | { readonly kind: 'open'; readonly text: string };

/**
 * Looks for the answer to a question among the bytes that came: noise before it, and an adapter's echo of the question, are passed over. Only a frame of the
 * unit, the function and the length that were asked for, with a sum that fits, is one.
 */
export function answerOf(question: Uint8Array, received: Uint8Array): Answer {
  const unit = question[0] ?? 0;
  const asked = question[1] ?? 0;
  const count = asked === writeOne ? 0 : (question[4] ?? 0) * 256 + (question[5] ?? 0);
  const whole = asked === writeOne ? question.length : 5 + 2 * count;
  // Of a read, the echo has the length of the question and not of the answer, unless the answer happens to have it too.
  const echoed = asked !== writeOne && sameAt(question, received, 0);
  let other: number | null = null;
  for (let at = echoed ? question.length : 0; at + 5 <= received.length; at++) {
    const code = received[at + 1] ?? 0;
    if (code === (asked | refusal) && intact(received, at, 5)) {
      if (received[at] === unit) return { kind: 'refused', code: received[at + 2] ?? 0 };
      other = received[at] ?? 0;
    }
    if (code !== asked || !intact(received, at, whole)) continue;
    if (received[at] !== unit) {
      other = received[at] ?? 0;
      continue;
    }
    if (asked === writeOne) {
      if (sameAt(question, received, at)) return { kind: 'written' };
    } else if (received[at + 2] === 2 * count)
      return { kind: 'values', values: Array.from({ length: count }, (_, i) => (received[at + 3 + 2 * i] ?? 0) * 256 + (received[at + 4 + 2 * i] ?? 0)) };
  }
  const beyond = received.length - (echoed ? question.length : 0);
  return {
    kind: 'open',
    text:
      other !== null
        ? `unit ${other} answered instead of unit ${unit}`
        : beyond > 0
          ? `${beyond} bytes came that are no answer: noise, another speed, or half a frame`
          : echoed
            ? 'only the echo of the question came back'
            : 'no answer in time',
  };
}

const sameAt = (frame: Uint8Array, received: Uint8Array, at: number): boolean =>
  at + frame.length <= received.length && frame.every((byte, i) => received[at + i] === byte);

function intact(received: Uint8Array, at: number, length: number): boolean {
  if (at + length > received.length) return false;
  const sum = crc16(received.subarray(at, at + length - 2));
  return received[at + length - 2] === (sum & 0xff) && received[at + length - 1] === sum >> 8;
}
