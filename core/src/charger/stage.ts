/** Stages a charger can be in; `off` is a source without power, `rest` a full bank without charge. New ones are added at the end: logs keep their place in this list. */
export const stages = ['off', 'rest', 'bulk', 'absorb', 'float', 'cold', 'equalise', 'fault', 'hot'] as const;
export type Stage = (typeof stages)[number];
