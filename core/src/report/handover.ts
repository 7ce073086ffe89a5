import { cardKindWords, displayText, parameterFor, roleInfo } from '../card';
import { findFindings, type Finding } from '../findings';
import {
  acceptedBy,
  countVerdicts,
  countWords,
  differencesBetween,
  differenceWords,
  dueOf,
  lastSnapshot,
  openStops,
  type Covered,
  type Due,
  type Job,
} from '../job';
import { verdictOrder, verdictWords } from '../proof';
import { formatBand, formatDuration, formatNumber, formatQuantity, formatSigned } from '../quantity';
import { cautionsOf, lastWord, verifiedWords } from '../runsheet';
import {
  allowedText,
  atBatteryText,
  cardOf,
  deriveSettings,
  devicesOf,
  fateWords,
  inCelsius,
  keyedText,
  schoolQuestions,
  type Plan,
  type Setting,
  type Step,
} from '../settings';
import { chemistryWords, figureInfo, figureKeys, figureOnBank, printWithBasis, rankWords, type Sheet } from '../sheet';
import { sensorPlaceWords, type Charger } from '../system';
import type { Block, Cell, Paper, Section, SumLine } from './paper';

/** What a hand-over is made with besides the job. */
export interface HandoverOptions {
  /** Year-month-day. */
  readonly today: string;
  /** Every sum written out. */
  readonly sums: boolean;
  /** Sheets this device knows besides those of the job. */
  readonly library?: readonly Sheet[];
}

const cell = (text: string, tone?: Cell['tone'], below?: string): Cell => ({ text, ...(tone ? { tone } : {}), ...(below ? { below } : {}) });
const day = (at: string): string => at.slice(0, 10);
/** ISO time as a person reads it, in UTC as it was kept. */
const moment = (at: string): string => `${at.slice(0, 10)} ${at.slice(11, 16)} UTC`;

/**
 * The hand-over: what was set, why, from which paper, what was read back, what was proved, what is open, when to come back. Made from the job alone, so the
 * same job gives the same report on any device.
 *
 * @param covered every requirement with its evidence, as `coverage` gives it
 */
export function handover(job: Job, covered: readonly Covered[], { today, sums, library = [] }: HandoverOptions): Paper {
  const plan = deriveSettings(job);
  const findings = findFindings(plan, today);
  const due = dueOf(job, covered, today, library);
  const { sheet } = job;
  return {
    title: `Hand-over: ${job.name}`,
    lines: [
      [job.system.site.place, `${formatNumber(plan.facts.nominalVolts, 1)} V bank`, today].filter(Boolean).join(', '),
      `Settings follow ${sheet.maker} ${sheet.battery}, “${sheet.document}”, revision ${sheet.revision}, ${sheet.date}.`,
    ],
    foot: `${job.name}, ${today}. ${lastWord}`,
    sections: [
      glance(job, plan, findings, covered, due),
      ...visits(job),
      system(job, plan),
      figures(plan),
      settings(job, plan, sums),
      decisions(job, plan, findings),
      readBacks(job, plan),
      proof(job, covered),
      open(job, findings, covered),
      care(plan, due),
    ],
  };
}

function glance(job: Job, plan: Plan, findings: readonly Finding[], covered: readonly Covered[], due: readonly Due[]): Section {
  const { bank, site } = job.system;
  const units = bank.unitsInSeries * bank.stringsInParallel;
  const stops = openStops(findings, job.accepted).length;
  const visit = job.visits.at(-1);
  const counts = countVerdicts(covered);
  return {
    id: 'glance',
    title: 'At a glance',
    blocks: [
      {
        kind: 'facts',
        rows: [
          {
            name: 'Bank',
            text: `${units} × ${job.sheet.maker} ${job.sheet.battery}, ${bank.unitsInSeries} in series, ${bank.stringsInParallel} ${bank.stringsInParallel === 1 ? 'string' : 'strings'}; ${formatNumber(plan.facts.nominalVolts, 1)} V, ${formatNumber(plan.facts.ratedAh, 0)} Ah ${chemistryWords[job.sheet.chemistry]}, ${plan.facts.cells} cells in series`,
          },
          { name: 'Place', text: `${site.place || 'not named'}; bank ${inCelsius.temperature(site.bankLowC)} to ${inCelsius.temperature(site.bankHighC)}` },
          ...(visit ? [{ name: 'Last visit', text: [visit.date, visit.by, visit.purpose].filter(Boolean).join(', ') }] : []),
          {
            name: 'Requirements',
            text: covered.length === 0 ? 'nothing to prove yet' : countWords(counts),
            ...(counts.fail > 0 ? { tone: 'stop' as const } : {}),
          },
          { name: 'Open stops', text: stops === 0 ? 'none' : String(stops), ...(stops > 0 ? { tone: 'stop' as const } : {}) },
          { name: 'Next', text: due[0] ? `${due[0].title}, by ${due[0].on}` : 'nothing is due' },
        ],
      },
    ],
  };
}

/** The visits with what was noted, the newest first, and what differs since the one before; nothing for a job that has none. */
function visits(job: Job): readonly Section[] {
  if (job.visits.length === 0) return [];
  const [last, before] = job.visits
    .map((v) => v.date)
    .sort()
    .reverse();
  const changed = last !== undefined && before !== undefined ? differencesBetween(job, before, last) : [];
  const blocks: Block[] = [
    {
      kind: 'list',
      items: [...job.visits]
        .reverse()
        .map((v) =>
          cell(
            [v.date, v.by, v.purpose, v.equalised ? 'equalised, attended' : ''].filter(Boolean).join(', '),
            undefined,
            [v.note, v.closed ? `Closed with ${countWords(v.closed.verdicts)}, on revision ${v.closed.sheet.revision} of the sheet.` : 'Not closed yet.']
              .filter(Boolean)
              .join(' '),
          ),
        ),
      empty: '',
    },
  ];
  if (before !== undefined)
    blocks.push(
      { kind: 'heading', text: `Since the visit of ${before}` },
      {
        kind: 'list',
        items: changed.map((d) =>
          cell(`${d.subject}: ${d.what} ${d.from} became ${d.to}, ${differenceWords[d.how]}`, d.how === 'elsewhere' ? 'caution' : undefined),
        ),
        empty: 'Nothing on record differs.',
      },
    );
  return [{ id: 'visits', title: 'Visits', blocks }];
}

function equipment(plan: Plan, device: Charger): readonly Cell[] {
  const card = cardOf(plan.input, device);
  const { sensor } = device;
  const isCharger = plan.input.system.chargers.some((c) => c.id === device.id);
  return [
    cell(device.name),
    cell(card ? `${card.maker} ${card.model}` : 'no card', undefined, card ? cardKindWords[card.kind] : undefined),
    cell(device.firmware ?? 'not read', device.firmware ? undefined : 'quiet'),
    cell(
      !isCharger && !plan.input.system.companions.some((c) => c.id === device.id && c.sensor)
        ? ''
        : sensor.fitted
          ? `fitted ${sensorPlaceWords[sensor.place]}, ± ${inCelsius.difference(sensor.errorC)}`
          : 'none fitted',
      undefined,
      sensor.fitted && sensor.offsetC !== 0 ? `reads ${formatSigned(sensor.offsetC, 1)} °C against the cell while cold` : undefined,
    ),
    cell([device.fuseA ? `fuse ${device.fuseA} A` : '', device.wire ? `${device.wire.areaMm2} mm², ${device.wire.lengthM} m` : ''].filter(Boolean).join(', ')),
  ];
}

function system(job: Job, plan: Plan): Section {
  return {
    id: 'system',
    title: 'The system',
    blocks: [
      { kind: 'drawing', drawing: 'oneLine', caption: 'One-line drawing, worked out from what is entered' },
      {
        kind: 'table',
        columns: [
          { head: 'Device', share: 2 },
          { head: 'Model', share: 3 },
          { head: 'Firmware', share: 2 },
          { head: 'Battery sensor', share: 4 },
          { head: 'Fuse and cable', share: 3 },
        ],
        rows: devicesOf(plan.input).map((d) => equipment(plan, d)),
        empty: 'No charger is entered yet.',
      },
      {
        kind: 'text',
        tone: 'quiet',
        text: `Loads ${formatQuantity(job.system.loads.minA, 'A', 1)} at least, ${formatQuantity(job.system.loads.maxA, 'A', 1)} at most. Charge current ceiling ${plan.ceiling.binding ? `${formatQuantity(plan.ceiling.binding.amps, 'A', 0)} (${plan.ceiling.binding.name.toLowerCase()}, ${plan.ceiling.binding.sum})` : 'not given'}.`,
      },
    ],
  };
}

function figures(plan: Plan): Section {
  const { sheet, otherSheets } = plan.input;
  const stated = figureKeys.flatMap((key): readonly Cell[][] => {
    const figure = sheet.figures[key];
    if (!figure) return [];
    const bank = figure.state === 'stated' && figure.unit === 'V' ? figureOnBank(figure, plan.facts.shape) : null;
    const onBank = bank ? [bank.target === undefined ? '' : formatQuantity(bank.target, 'V', 2), band(bank.band)].filter(Boolean).join(', ') : '';
    return [
      [
        cell(figureInfo[key].name),
        cell(printWithBasis(figure)),
        cell(onBank),
        cell([figure.from, figure.page].filter(Boolean).join(', ') || 'the sheet', undefined, rankWords[figure.rank]),
      ],
    ];
  });
  const blocks: Block[] = [
    {
      kind: 'facts',
      rows: [
        { name: 'Document', text: `${sheet.document}, revision ${sheet.revision}, ${sheet.date}${sheet.fetched ? `, fetched ${sheet.fetched}` : ''}` },
        ...otherSheets.map((s) => ({ name: 'Also kept, not used', text: `${s.maker} ${s.battery}, ${s.document}, revision ${s.revision}, ${s.date}` })),
      ],
    },
    {
      kind: 'table',
      columns: [
        { head: 'Figure', share: 3 },
        { head: 'As printed', share: 4, figures: true },
        { head: 'On this bank', share: 4, figures: true },
        { head: 'Source', share: 4 },
      ],
      rows: stated,
      empty: 'No figure is entered yet.',
    },
  ];
  if (plan.stairs.length > 0)
    blocks.push({
      kind: 'list',
      items: plan.stairs.map((s) => cell(`From ${inCelsius.temperature(s.fromC)}: at most ${formatQuantity(s.amps, 'A', 0)} into the bank`)),
      empty: '',
    });
  if (sheet.advice) blocks.push({ kind: 'text', tone: 'quiet', text: sheet.advice });
  return { id: 'figures', title: 'The maker’s figures', blocks };
}

const band = (b: { min?: number | undefined; max?: number | undefined }): string =>
  b.min === undefined && b.max === undefined
    ? ''
    : formatBand({ ...(b.min === undefined ? {} : { min: b.min }), ...(b.max === undefined ? {} : { max: b.max }) }, 'V', 2);

function settings(job: Job, plan: Plan, sums: boolean): Section {
  const name = (id: string): string => devicesOf(plan.input).find((d) => d.id === id)?.name ?? id;
  const blocks: Block[] = [{ kind: 'drawing', drawing: 'ladder', caption: 'Every setpoint in true volts at the bank, over the maker’s bands' }];
  for (const device of devicesOf(plan.input)) {
    const own = plan.settings.filter((s) => s.charger === device.id);
    const shot = lastSnapshot(job, device.id, ['readBack', 'powerCycle']);
    blocks.push(
      {
        kind: 'heading',
        text: device.name,
        beside: shot ? `${verifiedWords[shot.verified]}, ${moment(shot.at)}, by ${shot.by || 'nobody named'}` : 'not read back yet',
      },
      {
        kind: 'table',
        columns: [
          { head: 'Menu', share: 11 },
          { head: 'Set', share: 6, figures: true },
          { head: 'At the battery', share: 7, figures: true },
          { head: 'The sheet allows', share: 7, figures: true },
          { head: 'Read back', share: 5, figures: true },
          { head: 'Remark', share: 6 },
        ],
        rows: own.map((s) => settingRow(plan, s, shot?.values[s.role], name)),
        empty: 'No setting is worked out: the job carries no card for it.',
      },
    );
    if (sums) for (const s of own) if (s.value !== null && s.derivation.length > 1) blocks.push(sum(s));
  }
  return { id: 'settings', title: 'Settings, charger by charger', blocks };
}

function settingRow(plan: Plan, s: Setting, read: number | string | undefined, name: (id: string) => string): readonly Cell[] {
  const device = devicesOf(plan.input).find((d) => d.id === s.charger);
  const card = device && cardOf(plan.input, device);
  const parameter = card && parameterFor(card, s.role);
  const readText = read === undefined ? '' : plainValue(parameter ? displayText(parameter, read) : String(read));
  const otherwise = read !== undefined && s.value !== null && !s.inherited && read !== s.value;
  const fate = fateWords(s, name);
  return [
    cell([...s.menu, s.label].join(' › '), undefined, roleInfo[s.role].name === s.label.toLowerCase() ? undefined : roleInfo[s.role].name),
    cell(keyedText(s)),
    cell(s.off ? 'off' : atBatteryText(s, inCelsius)),
    cell(allowedText(s, inCelsius)),
    cell(readText, otherwise ? 'stop' : undefined),
    cell(
      s.override ? 'outside the sheet, by choice' : fate,
      s.override || s.within === 'outside' ? 'stop' : 'quiet',
      s.value === null ? leftWords(s) : undefined,
    ),
  ];
}

/** A choice without its quotation marks. */
const plainValue = (text: string): string => text.replace(/^“(.*)”$/, '$1');

/** Why nothing is keyed: the last note of its sum. */
const leftWords = (s: Setting): string | undefined => s.derivation.findLast((step) => step.kind === 'note')?.words;

function sum(s: Setting): Block {
  const lines = s.derivation.map((step): SumLine => ({
    words: step.words,
    figure: figureOf(step),
    kind: step.kind === 'set' || step.kind === 'subtotal' || step.kind === 'note' ? step.kind : 'line',
  }));
  return {
    kind: 'sum',
    title: `${roleInfo[s.role].name}: ${keyedText(s)}`,
    lines,
    sources: [...new Set(s.derivation.flatMap((step) => (step.source ? [step.source] : [])))],
  };
}

function figureOf({ value, unit, digits = 2, uncertainty }: Step): string {
  if (value === undefined) return '';
  return `${formatNumber(value, digits)}${uncertainty === undefined ? '' : ` ± ${formatNumber(uncertainty, 2)}`}${unit ? ` ${unit}` : ''}`;
}

function decisions(job: Job, plan: Plan, findings: readonly Finding[]): Section {
  const chosen = schoolQuestions
    .filter((q) => q.bears(plan))
    .map((q): readonly Cell[] => {
      const value = String(job.schools[q.school]);
      const option = q.options.find((o) => o.value === value);
      const choice = job.choices.findLast((c) => c.school === q.school && c.to === value);
      return [
        cell(q.question),
        cell(option?.words ?? value, undefined, option?.gives),
        cell(choice ? `${choice.reason} By ${choice.by}, ${choice.date}.` : 'the careful default', choice ? undefined : 'quiet'),
      ];
    });
  const name = (id: string): string => devicesOf(job).find((d) => d.id === id)?.name ?? id;
  const accepted = job.accepted.filter((a) => findings.some((f) => acceptedBy([a], f)));
  return {
    id: 'decisions',
    title: 'What was decided, and why',
    blocks: [
      {
        kind: 'table',
        columns: [
          { head: 'Question', share: 3 },
          { head: 'Chosen', share: 5 },
          { head: 'Why', share: 5 },
        ],
        rows: [
          [
            cell('Whose figures count'),
            cell(job.schools.reference === 'makerOnly' ? 'The maker’s own paper only' : 'The best that can be had, each marked'),
            cell(reasonFor(job, 'reference'), job.choices.some((c) => c.school === 'reference') ? undefined : 'quiet'),
          ],
          ...chosen,
        ],
        empty: '',
      },
      { kind: 'heading', text: 'Figures outside the sheet' },
      {
        kind: 'list',
        items: job.overrides.map((o) =>
          cell(
            `${name(o.charger)}, ${roleInfo[o.role].name}: ${overrideText(plan, o.charger, o.role)}. ${o.reason}`,
            'stop',
            `By ${o.by}, ${o.date}${o.reviewedBy ? `; looked at by ${o.reviewedBy}` : '; nobody else has looked at it'}.`,
          ),
        ),
        empty: 'None: every figure is the sheet’s.',
      },
      { kind: 'heading', text: 'Findings that somebody answered for' },
      { kind: 'list', items: accepted.map((a) => cell(a.text, 'caution', `${a.reason} By ${a.by}, ${a.date}.`)), empty: 'None.' },
    ],
  };
}

const reasonFor = (job: Job, school: string): string => {
  const choice = job.choices.findLast((c) => c.school === school);
  return choice ? `${choice.reason} By ${choice.by}, ${choice.date}.` : 'the careful default';
};

function overrideText(plan: Plan, charger: string, role: Setting['role']): string {
  const s = plan.setting(charger, role);
  return s ? `set ${keyedText(s)}${s.band ? `, the sheet allows ${allowedText(s, inCelsius)}` : ''}` : 'no longer a setting of it';
}

function readBacks(job: Job, plan: Plan): Section {
  const rows = devicesOf(plan.input).map((device): readonly Cell[] => {
    const shot = lastSnapshot(job, device.id, ['readBack', 'powerCycle']);
    const sheet = [...job.pastSheets, ...(job.programming ? [job.programming] : [])].findLast((s) => shot !== null && s.begunAt <= shot.at);
    const meter = job.system.instruments.find((i) => i.id === sheet?.instrument);
    const worst = device.displayReadings.reduce<{ meterV: number; displayV: number } | null>(
      (a, r) => (a === null || Math.abs(r.displayV - r.meterV) > Math.abs(a.displayV - a.meterV) ? r : a),
      null,
    );
    return [
      cell(device.name),
      cell(
        shot ? `${Object.keys(shot.values).length} values, ${verifiedWords[shot.verified]}` : 'not read back',
        shot ? undefined : 'caution',
        shot
          ? `${moment(shot.at)}, by ${shot.by || 'nobody named'}, ${shot.way === 'wire' ? 'over the wire' : shot.way === 'paper' ? 'from paper' : 'off its display'}`
          : undefined,
      ),
      cell(
        worst
          ? `display ${formatNumber(worst.displayV, 2)} V, meter ${formatNumber(worst.meterV, 2)} V`
          : job.system.companions.some((c) => c.id === device.id)
            ? ''
            : 'not compared',
        undefined,
        meter && worst ? `with ${meter.name}` : undefined,
      ),
      cell(
        job.system.companions.some((c) => c.id === device.id) ? '' : device.passcodeChanged ? 'changed' : 'not noted as changed',
        device.passcodeChanged ? undefined : 'caution',
      ),
    ];
  });
  const trouble = job.programming?.trouble ?? [];
  return {
    id: 'readBacks',
    title: 'What was read back',
    blocks: [
      {
        kind: 'table',
        columns: [
          { head: 'Device', share: 2 },
          { head: 'Read back', share: 5 },
          { head: 'Display against meter', share: 4 },
          { head: 'Passcode', share: 3 },
        ],
        rows,
        empty: 'No device is entered yet.',
      },
      ...(trouble.length > 0
        ? [
            { kind: 'heading' as const, text: 'What went otherwise than it should' },
            { kind: 'list' as const, items: trouble.map((t) => cell(t.text, undefined, moment(t.at))), empty: '' },
          ]
        : []),
    ],
  };
}

function proof(job: Job, covered: readonly Covered[]): Section {
  const name = (id: string | undefined): string => (id === undefined ? 'Bank' : (devicesOf(job).find((d) => d.id === id)?.name ?? id));
  const seen = covered.filter((c) => c.requirement.seenBy.some((kind) => kind !== 'rehearsal'));
  const told = seen.filter((c) => c.verdict !== 'notTested').sort((a, b) => verdictOrder.indexOf(a.verdict) - verdictOrder.indexOf(b.verdict));
  const logs = job.logs.filter((log) => seen.some((c) => c.by?.kind === 'log' && c.by.id === log.id));
  return {
    id: 'proof',
    title: 'What was proved',
    blocks: [
      {
        kind: 'table',
        columns: [
          { head: 'Verdict', share: 2 },
          { head: 'Of', share: 2 },
          { head: 'What must hold', share: 4 },
          { head: 'What was seen', share: 6 },
        ],
        rows: told.map((c): readonly Cell[] => [
          cell(verdictWords[c.verdict], c.verdict === 'fail' ? 'stop' : c.verdict === 'pass' ? undefined : 'caution'),
          cell(name(c.requirement.charger)),
          cell(c.requirement.name, undefined, requirementBand(c)),
          cell(c.by?.why ?? '', undefined, c.by ? `${c.by.name}, ${day(c.by.at)}` : undefined),
        ]),
        empty: 'Nothing was proved yet.',
      },
      { kind: 'heading', text: 'Not tested, or no longer counting' },
      {
        kind: 'list',
        items: grouped(
          job,
          seen.filter((c) => c.verdict === 'notTested'),
        ),
        empty: 'None: everything the sheet asks was tested.',
      },
      ...logs.map((log): Block => ({ kind: 'log', log: log.id, caption: `${log.name}: bank volts over the maker’s bands, charge current of each charger` })),
    ],
  };
}

/** Requirements of one kind as one line, with whom they are about; what was seen and no longer counts stands below. */
function grouped(job: Job, list: readonly Covered[]): readonly Cell[] {
  const name = (id: string | undefined): string => (id === undefined ? 'bank' : (devicesOf(job).find((d) => d.id === id)?.name ?? id));
  const kinds = [...new Set(list.map((c) => c.requirement.name))];
  return kinds.map((kind) => {
    const of = list.filter((c) => c.requirement.name === kind);
    const old = of.flatMap((c) => expiredWords(c) ?? []);
    return cell(`${kind}: ${of.map((c) => name(c.requirement.charger)).join(', ')}`, undefined, old.length > 0 ? [...new Set(old)].join('; ') : undefined);
  });
}

const expiredWords = (c: Covered): string | undefined => {
  const old = c.pieces.find((p) => p.expired);
  return old ? `${old.name}, ${day(old.at)}: ${old.expired ?? ''}` : undefined;
};

function requirementBand({ requirement: { band: b, unit, digits } }: Covered): string | undefined {
  if (b.min === undefined && b.max === undefined) return undefined;
  if (unit === 's')
    return b.min !== undefined && b.max !== undefined
      ? `${formatDuration(b.min)} to ${formatDuration(b.max)}`
      : b.max !== undefined
        ? `at most ${formatDuration(b.max)}`
        : `at least ${formatDuration(b.min ?? 0)}`;
  return formatBand(b, unit, digits);
}

/** What is left open, in words, the gravest first. */
export function openPoints(job: Job, findings: readonly Finding[], covered: readonly Covered[]): readonly Cell[] {
  const name = (id: string | undefined): string => (id === undefined ? 'Bank' : (devicesOf(job).find((d) => d.id === id)?.name ?? id));
  const stops = openStops(findings, job.accepted).map((f) => cell(f.text, 'stop', f.hurts));
  const fails = covered
    .filter((c) => c.verdict === 'fail')
    .map((c) => cell(`${name(c.requirement.charger)}: ${c.requirement.name} fails. ${c.by?.why ?? ''}`.trim(), 'stop'));
  const attention = findings.filter((f) => f.severity === 'attention' && !acceptedBy(job.accepted, f)).map((f) => cell(f.text, 'caution', f.hurts));
  const unsure = covered
    .filter((c) => c.verdict === 'inconclusive')
    .map((c) => cell(`${name(c.requirement.charger)}: ${c.requirement.name}, cannot be told. ${c.by?.why ?? ''}`.trim(), undefined, c.by?.next));
  const untold = covered.filter((c) => c.verdict === 'notTested' && c.requirement.seenBy.some((k) => k !== 'rehearsal')).length;
  const untested =
    untold === 0 ? [] : [cell(`${untold === 1 ? 'One requirement is' : `${untold} requirements are`} not tested, or no longer count as tested.`)];
  return [...stops, ...fails, ...attention, ...unsure, ...untested];
}

function open(job: Job, findings: readonly Finding[], covered: readonly Covered[]): Section {
  return { id: 'open', title: 'What is still open', blocks: [{ kind: 'list', items: openPoints(job, findings, covered), empty: 'Nothing is open.' }] };
}

function care(plan: Plan, due: readonly Due[]): Section {
  return {
    id: 'care',
    title: 'Cautions, and when to come back',
    blocks: [
      { kind: 'list', items: cautionsOf(plan).map((c) => cell(c.title, 'caution', c.says)), empty: '' },
      { kind: 'text', text: lastWord },
      {
        kind: 'table',
        columns: [
          { head: 'By', share: 2, figures: true },
          { head: 'What', share: 4 },
          { head: 'Why', share: 7 },
        ],
        rows: due.map((d) => [cell(d.on), cell(d.title), cell(d.why)]),
        empty: 'Nothing is due.',
      },
    ],
  };
}
