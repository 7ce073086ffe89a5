import type { Stage } from '@calm-keel/core/charger';

/** How each stage is drawn: letter, texture and word. */
export const stageLook: Readonly<Record<Stage, { readonly letter: string; readonly texture: string; readonly words: string }>> = {
  off: { letter: '', texture: '', words: 'source off' },
  rest: { letter: 'R', texture: 'rest', words: 'rest' },
  bulk: { letter: 'B', texture: 'bulk', words: 'bulk' },
  absorb: { letter: 'A', texture: 'absorb', words: 'absorb' },
  float: { letter: 'F', texture: 'float', words: 'float' },
  cold: { letter: 'C', texture: 'cold', words: 'held by the cold' },
  equalise: { letter: 'E', texture: 'equalise', words: 'equalise' },
  fault: { letter: '!', texture: 'fault', words: 'fault' },
  hot: { letter: 'H', texture: 'hot', words: 'held by the heat' },
};
