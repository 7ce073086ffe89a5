import { randomFrom } from './random';

/** Light that gets through, as a part of the clear sky's, joined by straight lines. Times in s from the start, rising. */
export interface CloudTrack {
  readonly time: Float64Array;
  readonly light: Float64Array;
}

/** Mean length of one clear and one cloudy spell together, s; a cloud's edge passes in so many seconds. */
const spellSeconds = 900;
const edgeSeconds = 8;
/** Light under a broken cloud, and just beside its edge, where the cloud itself throws light. */
const underCloud = 0.3;
const besideEdge = 1.12;

/**
 * A seeded sky of spells of sun and cloud with fast, bright edges, whose mean light is the clearness index asked for: alternating spells of
 * exponential length (a two-state renewal process, as in Skartveit and Olseth 1992). 1 is a clear sky, 0.25 and less closed.
 *
 * @param clearness mean light as a part of the clear sky's, 0 to 1
 * @param seconds how long
 */
export function cloudTrack(seed: number, clearness: number, seconds: number): CloudTrack {
  const random = randomFrom(seed);
  const time: number[] = [0];
  const light: number[] = [];
  if (clearness >= 0.985) return { time: Float64Array.of(0, seconds), light: Float64Array.of(Math.min(1, clearness), Math.min(1, clearness)) };
  if (clearness <= 0.25) {
    // A closed sky only drifts.
    light.push(clearness);
    for (let t = 0; t < seconds;) {
      t += 240 + 480 * random();
      time.push(t);
      light.push(Math.max(0.02, clearness * (0.7 + 0.6 * random())));
    }
    return { time: Float64Array.from(time), light: Float64Array.from(light) };
  }
  const sunny = (clearness - underCloud) / (1 - underCloud);
  const share = Math.max(0.08, Math.min(0.97, sunny));
  // With the shares held inside those limits the light under cloud takes up the rest.
  const dim = Math.max(0.05, (clearness - share) / (1 - share));
  let clear = random() < share;
  light.push(clear ? 1 : dim);
  for (let t = 0; t < seconds;) {
    const mean = spellSeconds * (clear ? share : 1 - share);
    const length = Math.max(4 * edgeSeconds, -Math.log(1 - random()) * mean);
    const level = clear ? 1 : dim * (0.75 + 0.5 * random());
    if (clear) {
      time.push(t + 2 * edgeSeconds, t + length - edgeSeconds);
      light.push(level, level);
    } else {
      time.push(t + length - edgeSeconds);
      light.push(level);
    }
    t += length;
    clear = !clear;
    time.push(t, t + edgeSeconds);
    light.push(besideEdge, clear ? besideEdge : dim);
    t += edgeSeconds;
  }
  return { time: Float64Array.from(time), light: Float64Array.from(light) };
}
