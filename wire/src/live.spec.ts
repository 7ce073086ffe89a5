import { readFileSync } from 'node:fs';
import { readJob, type Job } from '@calm-keel/core/job';
import { guessFields, logContextOf, logOfMoments, proveLog, reportOf, valuesOfFields, type Moment } from '@calm-keel/core/proof';
import { deriveSettings, provingMeter } from '@calm-keel/core/settings';
import { sitesOf } from '../../devices/src/site.js';
import { messageOf, startBroker } from '../../devices/src/talk.js';
import { openTalker } from './talkers';

const text = readFileSync(new URL('../../demo/teasel.job.json', import.meta.url), 'utf8');
const job = ((): Job => {
  const read = readJob(text);
  if (!read.ok) throw new Error('the demo job');
  return read.value;
})();

describe('a live log from a broker', () => {
  it('proves an absorb, like a log that a logger wrote', async () => {
    const plan = deriveSettings(job);
    // The launch with its targets keyed in.
    const site = sitesOf([text])[0]!;
    for (const d of site.devices) {
      const wanted = plan.settings.filter((s) => s.charger === d.charger.id && s.value !== null);
      site.plant.setValues(d.charger.id, { ...d.values(), ...Object.fromEntries(wanted.map((s) => [s.role, s.value])) });
    }
    const broker = await startBroker(0);
    const talker = openTalker({ name: 'gate', over: 'broker', url: broker.url, topic: 'teasel/#' });
    const moments: Moment[] = [];
    const samples: Readonly<Record<string, string>>[] = [];
    const from = Date.parse('2026-06-14T09:00:00Z') / 1000;
    try {
      while (talker.now().problem !== 'Nothing was said under this topic yet.') await new Promise((resolve) => setTimeout(resolve, 5));
      let mapping = null;
      for (let at = from, n = 0; at < from + 6 * 3600; at += 10) {
        site.plant.advance(10);
        broker.say('teasel/now', messageOf(site, at));
        while ((talker.now().heard?.number ?? 0) <= n) await new Promise((resolve) => setImmediate(resolve));
        n = talker.now().heard?.number ?? 0;
        const { fields } = talker.now().heard!;
        if (samples.length < 12) {
          samples.push(fields);
          const guess = guessFields(samples, logContextOf(plan));
          mapping = guess.ok ? guess.value.mapping : null;
        }
        if (mapping) moments.push({ at, values: valuesOfFields(mapping, fields) });
      }
    } finally {
      talker.close();
      await broker.close();
    }
    const log = logOfMoments(moments, 0);
    if (!log) throw new Error('no log');
    const proof = proveLog(
      plan,
      log,
      reportOf(log, { skipped: 0, firstSkipped: [], notes: [] }),
      job.system.instruments.find((i) => i.id === 'monitor') ?? provingMeter(job),
    );
    const absorbed = proof.rows.filter((r) => r.requirement.code === 'absorbLevel' && r.verdict === 'pass');
    expect(absorbed.length).toBeGreaterThan(0);
    expect(absorbed[0]?.measured).toBeCloseTo(28.1, 1);
    expect(proof.rows.filter((r) => r.verdict === 'fail').map((r) => `${r.requirement.code} ${r.requirement.charger ?? ''}`)).toEqual([]);
  });
});
