import { deriveSettings, notSaid, type Plan, type SettingsInput } from '../settings';
import { cellsOfVolts, figureKeys, isLithium, unitOfChemistry, type FigureKey, type Sheet } from '../sheet';
import { aboutOf, type Finding } from './finding';

/** What is told whatever else is in doubt: the doubts themselves. */
const doubts: ReadonlySet<string> = new Set(['batteryNotSaid', 'systemNotSaid', 'capacityNotSaid', 'figuresNotSaid', 'cellCountMismatch']);

/** A doubt, as the job would be without it: what is found there too does not come from it. */
interface Doubt {
  readonly without: SettingsInput;
  /** Told in spite of it. */
  readonly keeps: (finding: Finding) => boolean;
}

const withUnit = (input: SettingsInput, unit: Partial<Sheet['unit']>): SettingsInput => ({
  ...input,
  // A system of its own: what was worked out for the real one is kept with that.
  system: { ...input.system },
  sheet: { ...input.sheet, unit: { ...input.sheet.unit, ...unit } },
});

function doubtsOf({ input }: Plan, findings: readonly Finding[]): readonly Doubt[] {
  const { sheet } = input;
  const unsaid = notSaid(input);
  const list: Doubt[] = [];
  const keeps = (finding: Finding): boolean => doubts.has(finding.code);
  if (unsaid.includes('chemistry')) {
    const other = isLithium(sheet.chemistry) ? 'agm' : 'lfp';
    const changed = withUnit(input, unitOfChemistry(sheet.unit, sheet.chemistry, other));
    list.push({ without: { ...changed, sheet: { ...changed.sheet, chemistry: other } }, keeps });
  }
  if (unsaid.includes('nominalVolts') || unsaid.includes('unitsInSeries'))
    list.push({ without: withUnit(input, { nominalVolts: sheet.unit.nominalVolts * 2, cellsInSeries: sheet.unit.cellsInSeries * 2 }), keeps });
  if (findings.some((f) => f.code === 'cellCountMismatch'))
    list.push({ without: withUnit(input, { cellsInSeries: cellsOfVolts(sheet.chemistry, sheet.unit.nominalVolts) }), keeps });
  // One that no other basis would mend may be just as it stands. The others may be meant otherwise, or be no figures at all.
  const meant = new Map(
    findings.flatMap((f) =>
      f.code === 'basisSuspicious' && f.figure !== undefined
        ? f.remedies.flatMap((r) => (r.does === 'setBasis' ? [[f.figure, r.facts.basis] as const] : []))
        : [],
    ),
  );
  if (meant.size > 0) {
    const told = (finding: Finding): boolean => finding.code === 'basisSuspicious' || keeps(finding);
    for (const mended of [true, false]) {
      const figures: Partial<Record<FigureKey, Sheet['figures'][FigureKey]>> = {};
      for (const key of figureKeys) {
        const figure = sheet.figures[key];
        const basis = meant.get(key);
        if (figure && basis === undefined) figures[key] = figure;
        else if (figure && basis !== undefined && mended) figures[key] = { ...figure, basis };
      }
      list.push({ without: { ...input, system: { ...input.system }, sheet: { ...sheet, figures } }, keeps: told });
    }
  }
  return list;
}

/**
 * Holds back what only repeats a doubt that is told already: while the basis of a figure, the cell count or the battery itself is in doubt, whatever would
 * not be found without that doubt. It comes back, if it is true, once the doubt is mended; the doubt is a stop as long as it stands.
 *
 * @param find every rule on a plan
 */
export function withoutEchoes(plan: Plan, findings: readonly Finding[], find: (plan: Plan) => readonly Finding[]): readonly Finding[] {
  return doubtsOf(plan, findings).reduce<readonly Finding[]>((left, { without, keeps }) => {
    const still = new Set(find(deriveSettings(without)).map(aboutOf));
    return left.filter((finding) => keeps(finding) || still.has(aboutOf(finding)));
  }, findings);
}
