/** A straight line of volts over the temperature that a lagging sensor feels. */
export interface LaggedFit {
  /** V/°C. */
  readonly slope: number;
  readonly standardError: number;
  /** Time constant of the sensor, s. */
  readonly lagS: number;
  /** Spread of the temperature it felt, °C. */
  readonly spanC: number;
  readonly level: number;
}

/** One reading; those at which the charger had no current to spare tell the sensor’s temperature, and nothing of the voltage it would hold. */
export interface LaggedPoint {
  readonly t: number;
  readonly celsius: number;
  readonly volts: number;
  readonly counts?: boolean;
}

/** Lags tried, s. */
const lags = [0, 10, 20, 30, 45, 60, 90, 120, 180, 240, 300, 360, 420, 480, 540, 600, 720, 900, 1200];

/**
 * Fits volts = level + slope × T, where T follows the measured temperature with a first-order lag (dT/dt = (measured − T)/τ, τ from a list), by least
 * squares; the τ with the least rest wins. A lag longer than half of what the readings lasted cannot be told from them, and is not tried.
 *
 * @param points readings in order of time, s, °C, V
 * @returns null with fewer than five readings or no spread of temperature
 */
export function fitLagged(points: readonly LaggedPoint[]): LaggedFit | null {
  if (points.filter((p) => p.counts !== false).length < 5) return null;
  let best: (LaggedFit & { rest: number }) | null = null;
  const lasted = (points.at(-1)?.t ?? 0) - (points[0]?.t ?? 0);
  for (const lagS of lags) {
    if (lagS > lasted / 2) break;
    let felt = points[0]?.celsius ?? 0;
    const all = points.map((p, i) => {
      const before = points[i - 1];
      if (before && lagS > 0) {
        // Between two readings the temperature is taken to move in a straight line.
        const h = (p.t - before.t) / lagS;
        const slope = h > 0 ? (p.celsius - before.celsius) / h : 0;
        const decay = Math.exp(-h);
        felt = p.celsius - slope + (felt - before.celsius + slope) * decay;
      } else felt = p.celsius;
      return felt;
    });
    const xs = all.filter((_, i) => points[i]?.counts !== false);
    const ys = points.filter((p) => p.counts !== false).map((p) => p.volts);
    const n = xs.length;
    const mx = xs.reduce((a, b) => a + b, 0) / n;
    const my = ys.reduce((a, v) => a + v, 0) / n;
    const sxx = xs.reduce((a, x) => a + (x - mx) ** 2, 0);
    if (sxx < 1e-6) continue;
    const slope = xs.reduce((a, x, i) => a + (x - mx) * ((ys[i] ?? 0) - my), 0) / sxx;
    const level = my - slope * mx;
    const rest = xs.reduce((a, x, i) => a + ((ys[i] ?? 0) - level - slope * x) ** 2, 0);
    if (!best || rest < best.rest * 0.98) {
      best = { slope, level, lagS, rest, spanC: Math.max(...xs) - Math.min(...xs), standardError: Math.sqrt(rest / Math.max(1, n - 3) / sxx) };
    }
  }
  return best;
}
