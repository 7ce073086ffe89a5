import { contains, expandedUncertainty, speak } from '../quantity';
import { plan, rookMoss, seeded, teasel } from '../testing/fixtures';
import { keyed } from '../testing/keyed';
import { demoLog, madeLog, readCsv } from '../testing/logs';
import { stages } from '../charger';
import { judge, proveLog, verdictOrder, writeLog, type Log, type LogReport } from './index';

const p = plan(keyed(teasel()));
const monitor = teasel().system.instruments[1]!;

/** A log of noise: any values, missing samples, jumps in time. */
function noiseLog(seed: number): { log: Log; report: LogReport } {
  const random = seeded(seed);
  const n = 50 + Math.floor(random() * 400);
  let t = 1_781_400_000;
  const time = Float64Array.from({ length: n }, () => (t += random() < 0.02 ? 5000 : 1 + Math.floor(random() * 20)));
  const column = (low: number, high: number, missing: number): Float32Array =>
    Float32Array.from({ length: n }, () => (random() < missing ? NaN : low + random() * (high - low)));
  const charger = () => ({
    amps: column(-2, 60, 0.05),
    ...(random() < 0.5 ? { arrayVolts: column(0, 120, 0.1) } : {}),
    ...(random() < 0.5 ? { stage: Uint8Array.from({ length: n }, () => Math.floor(random() * 12)) } : {}),
  });
  const log: Log = {
    time,
    offsetMinutes: random() < 0.5 ? null : 60,
    bankVolts: column(20, 31, 0),
    chargers: { fore: charger(), aft: charger() },
    ...(random() < 0.7 ? { bankAmps: column(-40, 90, 0.1) } : {}),
    ...(random() < 0.7 ? { batteryC: column(-10, 40, 0.1), batterySensor: 'probe' } : {}),
  };
  return { log, report: { rows: n, skipped: 0, firstSkipped: [], intervalSeconds: 10, gaps: [], notes: [] } };
}

describe('whatever the log holds', () => {
  it('every row has a sentence, a known verdict, and numbers that are numbers', () => {
    for (let seed = 1; seed <= 60; seed++) {
      const { log, report } = noiseLog(seed);
      const proof = proveLog(p, log, report, monitor);
      for (const row of proof.rows) {
        expect(speak(row.why, 'C'))
          .withContext(`seed ${seed} ${row.requirement.code}`)
          .not.toMatch(/NaN|undefined|Infinity/);
        expect(verdictOrder).toContain(row.verdict);
        if (row.measured !== null) expect(Number.isFinite(row.measured) && Number.isFinite(row.uncertainty)).toBeTrue();
        if (row.verdict === 'inconclusive' || row.verdict === 'notTested')
          expect(speak(row.next ?? '', 'C').length)
            .withContext(`seed ${seed} ${row.requirement.code} says what to do next`)
            .toBeGreaterThan(10);
      }
      expect(proof.rows.map((r) => verdictOrder.indexOf(r.verdict))).toEqual(proof.rows.map((r) => verdictOrder.indexOf(r.verdict)).sort((a, b) => a - b));
      for (const span of proof.stages) expect(stages).toContain(span.stage);
    }
  });

  it('a pass lies inside its band with its whole interval, a fail of a level wholly outside', () => {
    // What was on its way, or never came near, is not judged by its number.
    const unsettled =
      /rather than held|says nothing of a day|never came near|only touched|for only|for .* the log has no|Nothing shows|never came to absorb|took a part of it/;
    for (let seed = 100; seed < 160; seed++) {
      const { log, report } = noiseLog(seed);
      for (const row of proveLog(p, log, report, monitor).rows) {
        if (row.measured === null || row.uncertainty === null) continue;
        const inside = contains(row.band, row.measured - row.uncertainty) && contains(row.band, row.measured + row.uncertainty);
        if (row.verdict === 'pass') expect(inside).withContext(`seed ${seed} ${row.requirement.code}`).toBeTrue();
        if (row.requirement.code !== 'absorbCompleted' && !unsettled.test(speak(row.why, 'C')))
          expect(row.verdict)
            .withContext(`seed ${seed} ${row.requirement.code}`)
            .toBe(judge({ value: row.measured, uncertainty: row.uncertainty }, row.band));
      }
    }
  });

  it('the ± is the sum of the lines shown with it', () => {
    for (const name of ['teasel-clean-day', 'teasel-broken-cloud', 'teasel-freezing-dawn']) {
      const { log, report } = demoLog(name);
      for (const row of proveLog(p, log, report, monitor).rows)
        if (row.uncertainty !== null) expect(row.uncertainty).withContext(row.requirement.code).toBeCloseTo(expandedUncertainty(row.budget, 2), 9);
    }
  });

  it('writing and reading it again changes no verdict', () => {
    const { log, report } = demoLog('teasel-broken-cloud');
    const again = readCsv(writeLog(log), ['fore', 'aft']);
    if (!again.ok) throw new Error('unreadable');
    const verdicts = (l: Log, r: LogReport) => proveLog(p, l, r, monitor).rows.map((x) => [x.requirement.code, x.requirement.charger, x.verdict, x.measured]);
    expect(verdicts(again.value.log, again.value.report)).toEqual(verdicts(log, report));
  });

  it('a larger coverage factor never makes a verdict firmer', () => {
    const wide = plan({ ...teasel(), coverage: 3 });
    const { log, report } = demoLog('teasel-clean-day');
    const narrow = proveLog(p, log, report, monitor).rows;
    for (const row of proveLog(wide, log, report, monitor).rows) {
      const before = narrow.find((r) => r.requirement.code === row.requirement.code && r.requirement.charger === row.requirement.charger);
      if (row.verdict === 'pass' || row.verdict === 'fail') expect(before?.verdict).withContext(row.requirement.code).toBe(row.verdict);
    }
  });
});

describe('a log that tells less', () => {
  it('without a charger’s own current says so for that charger, and still judges the other', () => {
    const { log, report } = demoLog('teasel-clean-day');
    const { aft: _gone, ...rest } = log.chargers;
    const proof = proveLog(p, { ...log, chargers: rest }, report, monitor);
    expect(proof.notes.join(' ')).toContain('no column “aft_A”');
    expect(proof.rows.filter((r) => r.requirement.charger === 'aft').every((r) => r.verdict === 'notTested')).toBeTrue();
    expect(proof.rows.find((r) => r.requirement.code === 'absorbLevel' && r.requirement.charger === 'fore')?.verdict).toBe('pass');
  });

  it('of a single charger may be told from the bank’s current alone', () => {
    const only = { ...rookMoss(), system: { ...rookMoss().system } };
    const { log, report } = madeLog(6 * 3600, 10, (s) => ({ volts: s < 7200 ? 13 + s / 4800 : 14.7, amps: 0, net: s < 7200 ? 12 : 6, celsius: 25 }));
    const proof = proveLog(plan(only), { ...log, chargers: {} }, report, rookMoss().system.instruments[0]!);
    expect(proof.rows.find((r) => r.requirement.code === 'absorbLevel')?.measured).toBeCloseTo(14.7, 1);
  });

  it('whose stage column contradicts voltage and current is named', () => {
    const { log, report } = demoLog('teasel-clean-day');
    const lying = {
      ...log,
      chargers: { ...log.chargers, fore: { ...log.chargers['fore']!, stage: new Uint8Array(log.time.length).fill(stages.indexOf('equalise')) } },
    };
    expect(proveLog(p, lying, report, monitor).notes.join(' ')).toContain('the stage it reports');
  });
});

describe('lead, referred to its reference temperature', () => {
  it('a charger that compensates rightly holds one level over a day of 25 °C swing, and one that does not is seen', () => {
    const mast = plan(rookMoss());
    const meter = rookMoss().system.instruments[0]!;
    const day = (slopeV: number) => {
      const read = readCsv(
        `time,bank_V,bank_A,battery_probe_degC,mast_A\n${Array.from({ length: 2000 }, (_, i) => {
          const celsius = 12.5 - 12.5 * Math.cos((i / 2000) * 2 * Math.PI);
          return `${1_781_400_000 + i * 10},${(14.7 + slopeV * (celsius - 25)).toFixed(3)},6,${celsius.toFixed(2)},6`;
        }).join('\n')}\n`,
        ['mast'],
      );
      if (!read.ok) throw new Error('unreadable');
      return proveLog(mast, read.value.log, read.value.report, meter).rows.find((r) => r.requirement.code === 'absorbAsProgrammed');
    };
    const right = day(-0.024);
    expect(right?.measured).toBeCloseTo(14.7, 2);
    expect(right?.verdict).not.toBe('fail');
    const wrong = day(0);
    expect(wrong?.verdict === 'pass' && Math.abs((wrong.measured ?? 0) - 14.7) < 0.01).toBeFalse();
  });
});
