import * as z from 'zod';
import type { Role } from '../card';
import type { Stage } from '../charger';
import { identifier } from '../sheet';
import { handCodes } from './faults';

/** Places for the two probes of a meter: plus and minus of the bank, the bus, a charger’s battery side, its input. */
export const probeSchema = z
  .string()
  .max(60)
  .regex(/^(bank|bus|(at|in):[a-z0-9-]+)[+-]$/);

const seconds = z.number().min(0).max(86_400);
/** What somebody does on the bench; a session is the list of them. */
export const actionSchema = z.discriminatedUnion('do', [
  z.object({
    do: z.literal('key'),
    device: identifier,
    stroke: z.object({ key: z.string().max(30), act: z.enum(['press', 'hold', 'right', 'left']), seconds: z.number().min(0).max(600).optional() }),
  }),
  z.object({ do: z.literal('reach'), device: identifier, level: z.enum(['expert', 'installer']) }),
  /** The front is left alone until it goes home by itself. */
  z.object({ do: z.literal('leave'), device: identifier }),
  z.object({ do: z.literal('note'), device: identifier }),
  z.object({ do: z.literal('pass'), seconds }),
  z.object({ do: z.literal('next') }),
  z.object({ do: z.literal('meter'), red: probeSchema, black: probeSchema }),
  z.object({ do: z.literal('clamp'), at: z.string().max(60) }),
  z.object({ do: z.literal('strings'), device: identifier }),
  z.object({ do: z.literal('thermometer'), at: z.enum(['battery', 'air']) }),
  z.object({ do: z.literal('ice'), device: identifier }),
  z.object({ do: z.literal('look'), at: z.string().max(60) }),
  z.object({ do: z.literal('log') }),
  z.object({ do: z.literal('cut'), device: identifier }),
  z.object({ do: z.literal('isolate'), device: identifier, off: z.boolean() }),
  z.object({
    do: z.literal('conditions'),
    light: z.number().min(0).max(1).optional(),
    loadA: z.number().min(0).max(500).optional(),
    engine: z.boolean().nullable().optional(),
  }),
  z.object({ do: z.literal('hand'), hand: z.enum(handCodes), device: identifier.nullable() }),
  z.object({ do: z.literal('hint') }),
]);
export type Action = z.infer<typeof actionSchema>;

/** What a look with the torch meets. */
export type Sight =
  | 'fine'
  | 'unplugged'
  | 'onPad'
  | 'inCase'
  | 'onBattery'
  | 'burnt'
  | 'snow'
  | 'clear'
  | 'cloud'
  | 'open'
  | 'closed'
  | 'besideShunt'
  | 'throughShunt'
  | 'leadsSwapped'
  | 'leadsRight'
  | 'partsBattery'
  | 'partsSource'
  | 'loadLeftOn'
  | 'loadsUsual'
  | 'cells'
  | 'sameSheet'
  | 'otherSheet'
  | 'none';

/** One line of what was done: when, what it is called, and what it showed. */
export interface Done {
  /** Seconds since the beginning. */
  readonly at: number;
  readonly minuteOfDay: number;
  /** What it is: `meter:bank`, `value:east:absorbVoltage`, `look:sensor:east`. */
  readonly key: string;
  readonly device: string | null;
  readonly role: Role | null;
  /** What it showed, in its unit; NaN where a number belongs and none is shown. */
  readonly number: number | null;
  readonly unit: 'V' | 'A' | '°C' | null;
  /** A second number beside it: the highest string beside the lowest, a display’s amps beside its volts. */
  readonly beside: number | null;
  /** As a display writes it. */
  readonly text: string | null;
  readonly sight: Sight | null;
  readonly stage: Stage | null;
}
