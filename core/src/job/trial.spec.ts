import { quickCard } from '../card';
import { inCelsius, wantedText } from '../settings';
import { shipped } from '../testing/shipped';
import { trialBanks, trialOf } from './trial';

describe('a device tried with a whole sheet', () => {
  const card = (id: string) => shipped.cards.find((c) => c.id === id)!;
  const sheet = (id: string) => shipped.sheets.find((s) => s.id === id)!;
  const row = (cardId: string, sheetId: string, inSeries: number, role: string) =>
    trialOf(card(cardId), sheet(sheetId), inSeries).settings.find((s) => s.role === role);

  it('offers only banks that the card is made for', () => {
    const agm = sheet('dunmere-gx-110-rev-2');
    expect(trialBanks(card('varrow-s45'), agm)).toEqual([
      { inSeries: 1, volts: 12 },
      { inSeries: 2, volts: 24 },
      { inSeries: 4, volts: 48 },
    ]);
    expect(trialBanks(card('hadrin-h80'), agm).map((b) => b.volts)).toEqual([12, 24, 36, 48]);
    // A pack of 51.8 V, and a charger for 12 and 24 V.
    const small = quickCard({ id: 'small', maker: 'A', model: 'B', kind: 'solarPwm', outputA: 10, systemVolts: [12, 24] });
    expect(trialBanks(small, sheet('corvane-n14-rev-1'))).toEqual([]);
  });

  it('says what is wanted and what its step makes of it, as on a job', () => {
    // 110 Ah at 1 % is 1.1 A; this device counts whole or half amps.
    const taper = row('varrow-s45', 'dunmere-gx-110-rev-2', 1, 'taperCurrent');
    expect(taper && wantedText(taper, inCelsius)).toBe('1.1\u00a0A');
    expect(taper?.value).toBe(1);
    // One battery of 14.4 V by the sheet, two of them twice that.
    expect(row('varrow-s45', 'dunmere-gx-110-rev-2', 1, 'absorbVoltage')?.value).toBe(14.4);
    expect(row('varrow-s45', 'dunmere-gx-110-rev-2', 2, 'absorbVoltage')?.value).toBe(28.8);
  });

  it('works for every shipped card with every sheet, monitors and thermostats too', () => {
    for (const c of shipped.cards)
      for (const s of shipped.sheets)
        for (const { inSeries } of trialBanks(c, s)) {
          const { settings } = trialOf(c, s, inSeries);
          expect(settings.map((x) => x.role))
            .withContext(`${c.id} with ${s.id}`)
            .toEqual(jasmine.arrayWithExactContents(c.parameters.map((p) => p.role)));
        }
  });
});
