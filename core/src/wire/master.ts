/** Why a question was not answered as it should be. `refused`: the device said no, by a code of the protocol. `silent`: nobody knows. */
export type Failure = { readonly kind: 'refused'; readonly code: number } | { readonly kind: 'silent'; readonly text: string };

/** What came of one question. */
export type Frame<T> = { readonly ok: true; readonly value: T } | { readonly ok: false; readonly failure: Failure };

/** Which of a device's two tables of words is read: those that can be written (function 3), or those that can only be read (function 4). */
export type Table = 'holding' | 'input';

/**
 * One device spoken to, one question at a time, whatever the wire. A question that got no answer is asked once more, on a fresh connection; a write is
 * never repeated.
 */
export interface Master {
  /** `count` words from `register` on, 1 to 125. */
  read(register: number, count: number, table?: Table): Promise<Frame<readonly number[]>>;
  /** One word; answered when the device has repeated it. */
  write(register: number, value: number): Promise<Frame<null>>;
  close(): void;
}
