import { isUnknown, parameterFor, type Card } from '../card';
import { isLithium } from '../sheet';
import type { Plan } from '../settings';
import { sensorPlaceWords, type Charger } from '../system';

/** What is done with a charger’s wired temperature sensor; null where it has none. */
export function sensorStep(
  plan: Plan,
  charger: Charger,
  card: Card,
): { title: string; says: readonly string[]; notes: readonly string[]; unplugs?: true } | null {
  if (card.sensor.reads !== 'wired' && card.sensor.reads !== 'network') return null;
  if (isUnknown(card, 'sensorKind') || isUnknown(card, 'sensorUse'))
    return {
      title: 'See whether it has a temperature sensor',
      says: ['What it does with one is not known: see its manual. Until then it counts as no protection against the cold.'],
      notes: isLithium(plan.input.sheet.chemistry) ? ['On lithium compensation has to be off, or the sensor unplugged where it serves nothing else.'] : [],
    };
  const cutoff = card.sensor.usedFor.includes('cutoff') && parameterFor(card, 'lowTempCutoff') !== undefined;
  const { lithiumSensor } = plan.input.schools;
  if (isLithium(plan.input.sheet.chemistry) && !cutoff && lithiumSensor !== 'keep')
    return {
      title: 'Unplug its temperature sensor',
      says: ['It serves compensation alone, and that is off on lithium. Unplugged, no reset can bring it back.'],
      notes: ['Leave the lead tied up beside it with a tag that says why.'],
      unplugs: true,
    };
  if (!charger.sensor.fitted)
    return cutoff
      ? {
          title: charger.sensor.fitted === false ? 'It has no temperature sensor' : 'See whether it has a temperature sensor',
          says: [
            isUnknown(card, 'sensorLoss')
              ? 'What it does without one is not known: count on no protection.'
              : card.sensor.withoutSensor === 'ignoresCutoff'
                ? 'Without one it ignores its cutoff and charges in the cold, whatever was entered.'
                : 'Without one it does not do what was entered.',
            ...(charger.sensor.fitted === false ? [] : ['Nobody has said yet. If one is there, say on System where it sits.']),
            'Fit one on the battery’s case, or see that another protection covers this source.',
          ],
          notes: [],
        }
      : null;
  return {
    title: 'Keep its temperature sensor plugged in',
    says: [
      cutoff ? 'Its low-temperature cutoff needs it.' : 'Its compensation needs it.',
      `It should sit on a battery’s case, tight and insulated from the air. The job notes it ${sensorPlaceWords[charger.sensor.place]}.`,
      'See on its own display that it reads the battery: hold a thermometer beside the sensor, and both agree.',
    ],
    notes: [],
  };
}
