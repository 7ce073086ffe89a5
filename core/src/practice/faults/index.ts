import * as z from 'zod';
import { handFaults } from './hands';
import { valueFaults } from './values';
import type { FaultKind } from './fault';

const record = { ...valueFaults, ...handFaults };
/** Every kind of fault. A new one is an entry in one of the two records, and its words. */
export type FaultCode = keyof typeof record;
export const faultKinds: Readonly<Record<FaultCode, FaultKind>> = record;
export const faultCodes = Object.keys(record) as readonly FaultCode[];
export const faultCodeSchema = z.enum(faultCodes as [FaultCode, ...FaultCode[]]);
export type { FaultKind, Hand, Showing, Cure, Setup, Spot } from './fault';
export { deviceHands, handCodes } from './fault';
