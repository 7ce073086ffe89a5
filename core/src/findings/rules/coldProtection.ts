import { parameterFor } from '../../card';
import { coldGuards, isAsked } from '../../settings';
import { statedFigure } from '../../sheet';
import { readsBattery } from '../../system';
import type { FindingRule, Finding } from '../finding';
import { celsius, chargersWithCards } from '../words';

/** A source without a working cold protection of its own, or not where it was chosen to live, at a place where the bank gets colder than the sheet allows. */
export const coldProtection: FindingRule = {
  code: 'coldProtection',
  belongsTo: 'system',
  short: 'No cold protection',
  check: ({ plan }) => {
    const least = statedFigure(plan.input.sheet, 'chargeTemperature')?.min;
    const low = plan.input.system.site.bankLowC;
    if (least === undefined || low >= least) return [];
    const school = plan.input.schools.coldProtection;
    return chargersWithCards(plan).flatMap(({ charger, card }): Finding[] => {
      const guards = coldGuards(plan, charger, card);
      const asked = guards.filter((g) => isAsked(plan.input, g));
      if (asked.some((g) => g.works)) return [];
      const whys = (asked.length > 0 ? asked : guards).map((g) => g.why).filter((why) => why !== '');
      const has = parameterFor(card, 'lowTempCutoff') !== undefined && card.sensor.usedFor.includes('cutoff');
      const elsewhere = guards.some((g) => g.works);
      return [
        {
          code: 'coldProtection',
          severity: 'stop',
          charger: charger.id,
          role: 'lowTempCutoff',
          text: `${charger.name} ${whys.length > 0 ? whys.join(', and ') : `has no ${school === 'bms' ? 'BMS' : 'relay'} that stops it in the cold`}; the bank falls to ${celsius(low)} and may not be charged below ${celsius(least)}.`,
          hurts: 'Charging frozen cells harms them for good and can make them dangerous.',
          remedies: [
            ...(has && !readsBattery(charger, card)
              ? [
                  {
                    label: 'A sensor is now on the battery case',
                    changes: [{ kind: 'setSensor', charger: charger.id, sensor: { fitted: true, place: 'batteryCase', offsetC: 0 } } as const],
                  },
                ]
              : []),
            ...(elsewhere
              ? [{ label: 'Take the protection that works', changes: [{ kind: 'setSchool', school: 'coldProtection', to: 'anyThatWorks' } as const] }]
              : []),
          ],
        },
      ];
    });
  },
};
