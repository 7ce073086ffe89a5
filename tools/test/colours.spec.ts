import { readFileSync, readdirSync } from 'node:fs';

const app = new URL('../../app/src/', import.meta.url);
const tokens = readFileSync(new URL('tokens.css', app), 'utf8');
const known = new Set([...tokens.matchAll(/^\s*(--ck-[\w-]+):/gm)].map((m) => m[1]));

const files = readdirSync(app, { recursive: true, encoding: 'utf8' })
  .filter((name) => /\.(ts|html|scss)$/.test(name) && !name.endsWith('.spec.ts'))
  .map((name) => ({ name, text: readFileSync(new URL(name, app), 'utf8') }));

/** A colour written out: digits after a hash, or by its parts. A template's own name (`#add`) is none. */
const writtenOut = /(?<![\w&(/])#(?:[0-9a-f]{8}|[0-9a-f]{6}|[0-9a-f]{3})(?=['"; ,)])|\b(?:rgba?|hsla?|oklch)\(/gi;
/** Names of a template that look like digits: of `<select #add …>`. */
const namesOf = (text: string): Set<string> => new Set([...text.matchAll(/<[a-z][\w-]*[^>]*?\s(#[a-z]+)(?=[\s>])/g)].map((m) => m[1] ?? ''));

const coloursIn = (text: string): string[] => {
  const names = namesOf(text);
  return [...text.matchAll(writtenOut)].map((m) => m[0]).filter((found) => !names.has(found));
};

describe('colours of the page', () => {
  it('finds one that is written out, and no name of a template', () => {
    expect(coloursIn('<path stroke="#1d2a35" />')).toEqual(['#1d2a35']);
    expect(coloursIn('a { color: #fff; background: rgb(1 2 3) }')).toEqual(['#fff', 'rgb(']);
    expect(coloursIn("fill: b ? '#cfe2e1' : 'var(--ck-ink)'")).toEqual(['#cfe2e1']);
    expect(coloursIn('<select #add id="x"><path fill="url(#tx-bulk)" />&#183;')).toEqual([]);
  });

  it('are written once, in tokens.css', () => {
    expect(files.length).toBeGreaterThan(300);
    const found = files.flatMap(({ name, text }) => coloursIn(text).map((c) => `${name}: ${c}`));
    // The browser paints its own frame before it knows the tokens.
    expect(found).toEqual(['index.html: #f6f3ec']);
    expect(tokens).toContain('--ck-paper: #f6f3ec;');
  });

  it('are tokens that exist', () => {
    const missing = files.flatMap(({ name, text }) => {
      const own = new Set([...text.matchAll(/(--ck-[\w-]+)'?\]?:/g)].map((m) => m[1]));
      return [...text.matchAll(/var\((--ck-[\w-]+?)(?=[),])/g)].map((m) => m[1]).flatMap((t) => (known.has(t) || own.has(t) ? [] : [`${name}: ${t}`]));
    });
    expect(missing).toEqual([]);
    const named = readFileSync(new URL('app/ui/tokens.ts', app), 'utf8').matchAll(/^\s+\| '([\w-]+)'/gm);
    const plain = [...named].map((m) => `--ck-${m[1] ?? ''}`);
    expect(plain.length).toBeGreaterThan(10);
    expect(plain.filter((t) => !known.has(t))).toEqual([]);
  });
});
