import { figureInfo, type Chemistry, type FigureKey } from '../sheet';
import type { Line } from './lines';
import { meaningIn, unitsOf, type NameMeaning } from './meaning';
import type { Word } from './page';

/** A value in a sentence and what the sentence means by it. */
export interface Said {
  readonly page: number;
  /** Null: a setting of some charger that is no figure of a sheet. */
  readonly key: FigureKey | null;
  readonly weak: boolean;
  readonly value: string;
  readonly words: readonly Word[];
  readonly quote: string;
}

interface Token {
  readonly text: string;
  readonly word: Word;
  readonly page: number;
}

const number = String.raw`[-−+±]?\d+(?:[.,]\d+)?`;
const unit = String.raw`(?:\s*(?:v(?:olts?|dc)?|vpc|m?v\s*(?:/|per|je|pro|par|por)\s*°?\s*[ck]|mv|amps?|amperes?|ac?|ca|c(?:\d+)?|°\s*[cf](?:\s*/\s*h)?|k|hours?|hrs?|h|std\.?|stunden|heures?|horas?|minut\w+\s*(?:/|per)\s*100\s*ah|min\s*(?:/|per)\s*100\s*ah|minut\w+|min|days?|tagen?|jours?|d[ií]as?|weeks?|%)(?![\p{L}]))`;
/** A number with its unit, a range, a tolerance: "14.2 V", "28.0–28.4 V", "between 0 °C and 45 °C", "0.05 C", "C/20". */
const quantity = new RegExp(
  String.raw`(?:(?:between|zwischen|entre|from|von|de)\s+)?(?:${number}${unit}?\s*(?:–|-|…|\.\.\.|to|bis|à|a|and|und|et|y)\s*${number}${unit}|c\s*/\s*\d+|${number}${unit})(?:\s*±\s*\d+(?:[.,]\d+)?\s*(?:v|%|°\s*c)?)?(?:\s*(?:/|per|a|each|je|pro|par|por)\s*(?:°\s*c\s*(?:and|per)\s*)?(?:cell|battery|block|zelle|batterie|élément|celda|bater[ií]a)\b)?`,
  'giu',
);

/** Sentences of lines of prose, with their words. A blank line, another size of letters or another column ends one. */
export function sentencesOf(lines: readonly Line[]): readonly (readonly Token[])[] {
  const sentences: Token[][] = [];
  let open: Token[] = [];
  let last: Line | undefined;
  const end = (): void => {
    if (open.length > 0) sentences.push(open);
    open = [];
  };
  for (const line of lines) {
    const broken = last !== undefined && (line.page !== last.page || line.y0 - last.y1 > 0.9 * line.size || Math.abs(line.size - last.size) > 0.15 * line.size);
    const bullet = /^[•·▪]/.test(line.cells[0]?.text ?? '');
    if (broken || bullet) end();
    for (const word of line.cells.flatMap((c) => c.words)) {
      open.push({ text: word.text, word, page: line.page });
      if (/[.;!?]["”)]?$/.test(word.text) && !/^(?:max|min|typ|ca|approx|no|nr|fig|nom|e\.g|i\.e|std|rev)\.$/i.test(word.text) && !/^\d+\.$/.test(word.text))
        end();
    }
    last = line;
  }
  end();
  return sentences;
}

/** Words that turn a figure off or forbid it, in a sentence without a number. */
const states: readonly (readonly [RegExp, string])[] = [
  [
    /\b(do not|never|must not|shall not|not to be|not permitted|not allowed|prohibited|forbidden|nicht zulässig|nicht|keine|interdit|ne pas|no se debe|no permitid|prohibid)/i,
    'not permitted',
  ],
  [
    /\b(disabled?|switched off|turned off|set to zero|not (needed|required|necessary)|abgeschaltet|nicht (nötig|erforderlich)|désactivée?|desactivad[oa])\b/i,
    'not needed',
  ],
];

/**
 * What the sentences of a paper say: each number with its unit is given to the nearest name before it in its part of the sentence, else behind it.
 */
export function saidIn(lines: readonly Line[], chemistry: Chemistry): readonly Said[] {
  return sentencesOf(lines).flatMap((tokens): readonly Said[] => {
    const text = tokens.map((t) => t.text).join(' ');
    const page = tokens[0]?.page ?? 1;
    const starts: number[] = [];
    tokens.reduce((at, t) => (starts.push(at), at + t.text.length + 1), 0);
    const wordsIn = (from: number, to: number): readonly Word[] =>
      tokens.filter((t, i) => (starts[i] ?? 0) < to && (starts[i] ?? 0) + t.text.length > from).map((t) => t.word);
    const found = [...text.matchAll(quantity)].filter((m) => !/[\p{L}\d]/u.test(text[m.index - 1] ?? ' '));
    if (found.length === 0) {
      const state = states.find(([pattern]) => pattern.test(text));
      const meaning = state && text.length < 160 ? meaningIn(text, chemistry) : null;
      return state && meaning?.kind === 'figure' && switchable.includes(meaning.key)
        ? [
            {
              page,
              key: meaning.key,
              weak: meaning.weak,
              value: meaning.key === 'compensationSlope' ? 'not needed' : state[1],
              words: tokens.map((t) => t.word),
              quote: text,
            },
          ]
        : [];
    }
    let from = 0;
    let before: NameMeaning | null = null;
    return found.flatMap((match, i): readonly Said[] => {
      const start = match.index;
      const end = start + match[0].length;
      const next = found[i + 1]?.index ?? text.length;
      const ahead = text.slice(from, start);
      const behind = text.slice(end, next);
      const pieces = ahead.split(/[,:]\s|\b(?:and|or|but|und|oder|et|ou|y|o)\b/);
      const parts = [pieces.at(-1) ?? '', ahead, behind.split(/[,;]\s|\b(?:and|or|und|oder)\b/)[0] ?? ''];
      const units = unitsOf(match[0]);
      const hit = parts.map((part) => (part.trim() === '' ? null : meaningIn(part, chemistry, units))).find((m) => m !== null) ?? null;
      // "14.2 V for 30 minutes": the time of what was said before it.
      const follows =
        before?.kind === 'figure' && /^\s*(?:for|during|every|for at least|für|alle|pendant|tous les|durante|cada)?\s*$/i.test(ahead)
          ? (timesOf[before.key] ?? []).find((key) => figureInfo[key].units.some((u) => (units as readonly string[] | null)?.includes(u)))
          : undefined;
      // "… and shall stay between …": the same figure again.
      const meaning: NameMeaning | null = follows
        ? { kind: 'figure', key: follows, weak: false }
        : (hit ?? (/\b(it|stay|remain|this|shall|must)\b/i.test(ahead) ? before : null));
      from = end;
      if (meaning?.kind === 'foreign' && meaning.term !== 'other' && meaning.term !== 'discharge')
        return [{ page, key: null, weak: false, value: match[0], words: wordsIn(start, end), quote: text }];
      if (meaning?.kind !== 'figure') return [];
      // "charge at 25 °C" says where a value holds, and not where charging is allowed.
      if (meaning.key === 'chargeTemperature' && !/[–-]|between|from|to\b/i.test(match[0]) && !limited.test(ahead)) return [];
      before = meaning;
      const never = /\b(?:never|not|no|nicht|nie|kein\w*|jamais|pas|nunca)\b/i.test(pieces.at(-1) ?? '');
      const most =
        /\b(?:(?:shall|must|should|do|does|may) not exceed|at most|no more than|up to|never above|not above|höchstens|au plus|como máximo)\s*$/i.test(ahead);
      const least = /\b(?:at least|no less than|mindestens|au moins|never below|not below)\s*$/i.test(ahead);
      const below = /\b(?:below|under|unter|en dessous de|por debajo de)\s*$/i.test(ahead);
      const above = /\b(?:above|over|über|au-dessus de|por encima de)\s*$/i.test(ahead);
      const mark = most || (below && !never) || (above && never) ? 'at most ' : least || (above && !never) || (below && never) ? 'at least ' : '';
      return [{ page, key: meaning.key, weak: meaning.weak, value: mark + match[0], words: wordsIn(start, end), quote: text }];
    });
  });
}

/** What a time behind a voltage is the time of. */
const timesOf: Readonly<Partial<Record<FigureKey, readonly FigureKey[]>>> = {
  absorbVoltage: ['absorbTime'],
  equaliseVoltage: ['equaliseTime', 'equaliseInterval'],
  equaliseTime: ['equaliseInterval'],
};
const limited =
  /\b(?:below|under|above|over|at least|at most|minimum|maximum|up to|unter|über|mindestens|höchstens|jamais|dessous|dessus|debajo|encima)\b[^,;]*$/i;

/** Figures that a paper may forbid or switch off in a sentence. */
const switchable: readonly FigureKey[] = ['equaliseVoltage', 'floatVoltage', 'compensationSlope'];
