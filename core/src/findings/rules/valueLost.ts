import { chargerRule } from '../rule';

/** A charger that discards unsaved edits, or forgets what was not saved apart. */
export const valueLost = chargerRule(({ card }) => {
  const { commit, forgets } = card;
  const timeoutS = commit.timeoutSeconds ?? null;
  const endOfList = commit.kind === 'endOfList';
  const discards = commit.waysOut?.discards ?? null;
  if (timeoutS === null && !endOfList && discards === null && forgets.length === 0) return null;
  return { severity: 'note', facts: { timeoutS, endOfList, discards, forgets, proof: commit.proof } };
});
