/** Whether everything is tried: under `npm test -- --all`, and when specs are asked for by name. */
export const allRounds = Boolean(process.env['ALL_ROUNDS']);

/** How often a property is tried with random inputs: a tenth of the rounds in the gate. Rounds of lower number are the same in both. */
export const rounds = (all: number): number => (allRounds ? all : Math.ceil(all / 10));
