/** Stages a charger can be in; `off` is a source without power, `rest` a full bank without charge. New ones are added at the end: logs keep their place in this list. */
export const stages = ['off', 'rest', 'bulk', 'absorb', 'float', 'cold', 'equalise', 'fault', 'hot'] as const;
export type Stage = (typeof stages)[number];
/** Place of each stage in that list: what registers and columns count by. */
export const stageCode = Object.fromEntries(stages.map((s, i) => [s, i])) as Record<Stage, number>;
