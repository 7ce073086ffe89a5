import { readdirSync, readFileSync } from 'node:fs';
import { puzzlingWords } from '../../core/src/testing/plainWords';

const folder = new URL('../../app/src/app/', import.meta.url);

/** The sentences that a source of the page shows: texts and spoken attributes of its template, and strings of its code. */
function sentencesOf(source: string, isTemplate: boolean): string[] {
  const plain = source.replace(/\/\*\*[\s\S]*?\*\//g, '').replace(/^\s*\/\/.*$/gm, '');
  const templates = isTemplate ? [plain] : [...plain.matchAll(/template: `([\s\S]*?)`,\n/g)].map((m) => m[1] ?? '');
  const code = isTemplate ? '' : plain.replace(/(template|styles): `[\s\S]*?`,\n/g, '');
  const strings = [...code.matchAll(/'([^'\n]*)'|`([^`]*)`/g)].map((m) => m[1] ?? m[2] ?? '');
  const spoken = templates.flatMap((template) => [
    ...[...template.matchAll(/(?:aria-label|label|title|placeholder)="([^"]*)"/g)].map((m) => m[1] ?? ''),
    ...[...template.matchAll(/'([^'\n<>]*)'/g)].map((m) => m[1] ?? ''),
    ...template
      .replace(/\{\{[\s\S]*?\}\}/g, ' ')
      .replace(/<[^>]*>/g, '\n')
      .replace(/@(if|else if|for|switch|case|let)[^{;]*[{;]/g, '\n')
      .split('\n'),
  ]);
  // One word by itself is a name of the code.
  return [...strings, ...spoken].map((text) => text.replace(/\$\{[^}]*\}/g, '').trim()).filter((text) => text.includes(' '));
}

describe('the words of the page', () => {
  it('are those of a service manual, on every screen', () => {
    const files = readdirSync(folder, { recursive: true, encoding: 'utf8' }).filter((f) => /\.(html|ts)$/.test(f) && !f.endsWith('.spec.ts'));
    expect(files.length).toBeGreaterThan(200);
    let sentences = 0;
    for (const file of files)
      for (const sentence of sentencesOf(readFileSync(new URL(file, folder), 'utf8'), file.endsWith('.html'))) {
        sentences++;
        expect(sentence).withContext(file).not.toMatch(puzzlingWords);
      }
    expect(sentences).toBeGreaterThan(2500);
  });

  it('are found wherever they are written', () => {
    const of = (source: string, isTemplate = false): boolean => sentencesOf(source, isTemplate).some((s) => puzzlingWords.test(s));
    expect(of('<p>What stands on it</p>', true)).toBeTrue();
    expect(of('<b [attr.aria-label]="open ? \'It stands here\' : x"></b>', true)).toBeTrue();
    expect(of("const words = 'It stands here';")).toBeTrue();
    expect(of('const words = `It ${verb} kept here`;')).toBeTrue();
    expect(of('/** What stands on it */ const kept = told;')).toBeFalse();
    expect(of('<p [class.kept]="kept()">What is on it</p>', true)).toBeFalse();
  });
});
