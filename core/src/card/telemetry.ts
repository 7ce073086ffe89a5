import * as z from 'zod';
import { roleSchema } from './role';

const registerSchema = z.int().min(0).max(65_535);

/** How the words from a register on make a number: one word or two, with a sign or without, or a float of 32 bits. */
export const registerForms = ['int16', 'uint16', 'int32', 'uint32', 'float32'] as const;
export type RegisterForm = (typeof registerForms)[number];

/** Where a number stands, and what one count of it is in the display's unit. */
const counted = {
  register: registerSchema,
  scale: z.number().positive().max(1000),
  /** A signed word where nothing is said. */
  form: z.enum(registerForms).optional(),
  /** Of two words the lower one stands first; otherwise the higher. */
  order: z.literal('lowFirst').optional(),
};

/** What a device tells of the present moment. Volts and amps as it measures them itself; `stage` is a place in the list of stages; `alarm` 0 is none. */
const liveSchema = z.enum([
  'volts',
  'amps',
  'bankAmps',
  'celsius',
  'stage',
  'charge',
  'inputVolts',
  'inputWatts',
  'loadAmps',
  'machineC',
  'alarm',
  'clockMinutes',
]);
export type Live = z.infer<typeof liveSchema>;

/**
 * Registers of a device that speaks Modbus (an open protocol), over a network or a serial line. A register is a signed 16-bit number unless its
 * `form` says otherwise; `scale` is the display's unit in one count. Settings are held as the display shows them; a choice is the place of its option in the card's list.
 */
export const telemetrySchema = z.object({
  /** `modbusTcp` is how cards before serial lines called it; which wire leads to a device is the list's affair and not the card's. */
  protocol: z.enum(['modbus', 'modbusTcp']),
  /** Tells what stands at the address: another number there is another device. */
  identity: z.object({ register: registerSchema, value: z.int().min(0).max(32_767) }),
  /** Firmware times a hundred. */
  firmware: registerSchema.optional(),
  live: z
    .array(
      z.object({
        what: liveSchema,
        ...counted,
        /** Where it is not among the registers that can be written: the table that can only be read. */
        table: z.literal('input').optional(),
      }),
    )
    .max(20),
  values: z.array(z.object({ role: roleSchema, ...counted })).max(80),
  /** Writing this number there stores what was written before; missing where every write is stored at once. */
  commit: z.object({ register: registerSchema, value: z.int().min(0).max(32_767) }).optional(),
});
export type Telemetry = z.infer<typeof telemetrySchema>;
