import { parseArgs } from 'node:util';

/** Options of a command by name, without their dashes: with a value behind them, or alone. */
type Kinds = Readonly<Record<string, 'string' | 'boolean'>>;

/** What was given behind a command. */
export interface Given<K extends Kinds> {
  readonly paths: readonly string[];
  readonly values: { readonly [N in keyof K]?: K[N] extends 'string' ? string : true };
}

/**
 * Reads what stands behind a command.
 *
 * @returns paths and options, or a sentence on the first option that is not known or lacks its value
 * @example optionsIn(['job.json', '--seed', '3'], { seed: 'string' }) // { paths: ['job.json'], values: { seed: '3' } }
 */
export function optionsIn<K extends Kinds>(args: readonly string[], kinds: K): Given<K> | string {
  const options = Object.fromEntries(Object.entries(kinds).map(([name, type]) => [name, { type }]));
  const { tokens } = parseArgs({ args: [...args], options, strict: false, allowPositionals: true, tokens: true });
  const paths: string[] = [];
  const values: Record<string, string | true> = {};
  for (const token of tokens) {
    if (token.kind === 'positional') paths.push(token.value);
    if (token.kind !== 'option') continue;
    const { name, rawName, value, inlineValue } = token;
    const kind = Object.hasOwn(kinds, name) ? kinds[name] : undefined;
    if (kind === undefined) return `There is no option “${rawName}”. keel --help tells them all.`;
    if (kind === 'boolean') values[name] = true;
    else if (value === undefined || value === '' || (!inlineValue && value.startsWith('--'))) return `“${rawName}” needs a value behind it.`;
    else values[name] = value;
  }
  return { paths, values: values as Given<K>['values'] };
}
