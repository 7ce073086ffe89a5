/**
 * How often a property is tried with random inputs: a tenth of the rounds in the gate, all of them under `npm test -- --all` and when its
 * specs are asked for by name. Rounds of lower number are the same in both.
 */
export const rounds = (all: number): number => (process.env['ALL_ROUNDS'] ? all : Math.ceil(all / 10));
