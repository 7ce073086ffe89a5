import { readdirSync, readFileSync } from 'node:fs';
import * as ts from 'typescript';
import { puzzlingWords } from '../../core/src/testing/plainWords';

const roots = ['core/src', 'cli/src', 'server/src', 'wire/src', 'devices/src'] as const;

/** Every string of a source that is more than one word: what somebody may come to read. Where a template has a gap, a sign stands for it. */
function sentencesOf(source: string): string[] {
  const found: string[] = [];
  const look = (node: ts.Node): void => {
    if (ts.isImportDeclaration(node)) return;
    if (ts.isStringLiteral(node) || ts.isNoSubstitutionTemplateLiteral(node)) found.push(node.text);
    else if (ts.isTemplateExpression(node)) found.push([node.head.text, ...node.templateSpans.map((s) => s.literal.text)].join('…'));
    ts.forEachChild(node, look);
  };
  look(ts.createSourceFile('of.ts', source, ts.ScriptTarget.Latest, true));
  return found.filter((text) => /\s/.test(text.trim()));
}

describe('the words of the core, the command line and the servers', () => {
  it('are those of a service manual', () => {
    let sentences = 0;
    for (const root of roots) {
      const folder = new URL(`../../${root}/`, import.meta.url);
      for (const file of readdirSync(folder, { recursive: true, encoding: 'utf8' })) {
        if (!file.endsWith('.ts') || file.endsWith('.spec.ts') || /(^|\/)testing\//.test(file)) continue;
        for (const sentence of sentencesOf(readFileSync(new URL(file, folder), 'utf8'))) {
          sentences++;
          expect(sentence).withContext(`${root}/${file}`).not.toMatch(puzzlingWords);
        }
      }
    }
    expect(sentences).toBeGreaterThan(4000);
  });

  it('are found in strings and in templates, and comments are not read', () => {
    const of = (source: string): boolean => sentencesOf(source).some((s) => puzzlingWords.test(s));
    expect(of("const a = 'It stands here';")).toBeTrue();
    expect(of('const a = `At ${volts} it was kept`;')).toBeTrue();
    expect(of('/** What stands here */ const stands = told;')).toBeFalse();
    expect(of("if (end === 'stands') go();")).toBeFalse();
    expect(of("const a = 'It is here';")).toBeFalse();
  });
});
