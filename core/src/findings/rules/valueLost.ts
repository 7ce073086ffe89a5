import { roleInfo } from '../../card';
import { formatDuration } from '../../quantity';
import { chargerRule } from '../rule';
import { listed } from '../words';

/** A charger that throws edits away, or forgets what was not saved apart. */
export const valueLost = chargerRule('valueLost', ({ charger, card }) => {
  const { commit, forgets } = card;
  const ways = [
    ...(commit.timeoutSeconds === undefined ? [] : [`throws an edit away after ${formatDuration(commit.timeoutSeconds)}`]),
    ...(commit.kind === 'endOfList' ? ['saves only at the end of the list'] : []),
    ...(commit.waysOut ? [`has two ways out, of which “${commit.waysOut.discards}” discards`] : []),
    ...(forgets.length > 0 ? [`loses ${listed(forgets.map((r) => roleInfo[r].name))} at a restart unless saved apart`] : []),
  ];
  if (ways.length === 0) return null;
  return {
    severity: 'note',
    text: `${charger.name} ${listed(ways)}.`,
    hurts: `Everything looks right until the next power cut. Prove the saved value: ${commit.proof.charAt(0).toLowerCase()}${commit.proof.slice(1)}`,
  };
});
