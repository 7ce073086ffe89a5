/** A label that wants to stand at `at`, reaching `above` and `below` it, px. */
export interface Block {
  readonly at: number;
  readonly above: number;
  readonly below: number;
}

/** What a column of labels needs at least, px. */
export const neededHeight = (blocks: readonly Block[]): number => blocks.reduce((sum, b) => sum + b.above + b.below, 0);

/**
 * Places labels so that none touch, each as near as can be to where it wants to stand (least squares: neighbours that would overlap move together
 * about their mean, the pool-adjacent-violators method), and none leaves the plot while there is room.
 *
 * @param blocks from top to bottom
 * @returns where each `at` ends up
 */
export function placeLabels(blocks: readonly Block[], top: number, bottom: number): readonly number[] {
  // Offsets turn "at least so far apart" into "not falling": the distance from the first label if all stood packed.
  const offsets: number[] = [];
  let packed = 0;
  blocks.forEach((b, i) => {
    const before = blocks[i - 1];
    if (before) packed += before.below + b.above;
    offsets.push(packed);
  });
  interface Pool {
    sum: number;
    count: number;
  }
  const pools: Pool[] = [];
  blocks.forEach((b, i) => {
    pools.push({ sum: b.at - (offsets[i] ?? 0), count: 1 });
    for (
      let last = pools.at(-1), before = pools.at(-2);
      last && before && before.sum / before.count > last.sum / last.count;
      last = pools.at(-1), before = pools.at(-2)
    ) {
      pools.pop();
      before.sum += last.sum;
      before.count += last.count;
    }
  });
  const places = pools.flatMap((pool) => Array.from({ length: pool.count }, () => pool.sum / pool.count)).map((v, i) => v + (offsets[i] ?? 0));
  // Bounded: from below upwards, then from above downwards, so that the top wins when there is no room.
  for (let i = places.length - 1, floor = bottom; i >= 0; i--) {
    const b = blocks[i];
    if (!b) continue;
    places[i] = Math.min(places[i] ?? 0, floor - b.below);
    floor = (places[i] ?? 0) - b.above;
  }
  for (let i = 0, ceiling = top; i < places.length; i++) {
    const b = blocks[i];
    if (!b) continue;
    places[i] = Math.max(places[i] ?? 0, ceiling + b.above);
    ceiling = (places[i] ?? 0) + b.below;
  }
  return places.map((v) => Math.round(v * 10) / 10);
}
