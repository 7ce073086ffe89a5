/** What JSON calls an object. */
export type Loose = Readonly<Record<string, unknown>>;

/** Whether a value is an object with names, and neither a list nor nothing. */
export const isRecord = (value: unknown): value is Loose => typeof value === 'object' && value !== null && !Array.isArray(value);
