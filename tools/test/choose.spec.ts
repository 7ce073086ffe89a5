import { besideChanges, chosen } from './choose.mjs';

describe('what --only names', () => {
  it('is a folder or a file of specs in Node, in the browser, or journeys', () => {
    expect(chosen(['core/settings', 'core/src/card/card.spec.ts', 'server', 'app/prove', 'e2e/prove', 'core']).choice).toEqual({
      node: ['core/src/settings/**/*.spec.ts', 'core/src/card/card.spec.ts', 'server/**/*.spec.ts', 'core/**/*.spec.ts'],
      page: ['app/prove/**/*.spec.ts'],
      journeys: ['prove.spec.ts'],
    });
    expect(chosen(['app', 'e2e']).choice).toEqual({ node: null, page: ['**/*.spec.ts'], journeys: [] });
    expect(chosen(['app/src/app/ui/number-field.ts', 'core/quantity/parse.ts']).choice).toEqual({
      node: ['core/src/quantity/parse.spec.ts'],
      page: ['app/ui/number-field.spec.ts'],
      journeys: null,
    });
  });

  it('is told when it names nothing', () => {
    expect(chosen(['cores', 'app/ui'])).toEqual({ choice: { node: null, page: ['app/ui/**/*.spec.ts'], journeys: null }, wrong: ['cores'] });
  });
});

describe('what is beside a change', () => {
  it('are the specs of its folder, once', () => {
    const paths = [
      'core/src/settings/cold.ts',
      'core/src/settings/roles/a.ts',
      'app/src/app/prove/x.html',
      'e2e/prove.spec.ts',
      'library/cards/a.json',
      'README.md',
    ];
    expect(besideChanges(paths)).toEqual({
      node: ['core/src/card/**/*.spec.ts', 'core/src/settings/**/*.spec.ts'],
      page: ['app/prove/**/*.spec.ts'],
      journeys: ['prove.spec.ts'],
    });
  });

  it('is all of the core where a file above its folders is changed, and nothing where nothing has specs', () => {
    expect(besideChanges(['core/src/globals.d.ts', 'app/src/app/app.ts']).node).toEqual(['core/**/*.spec.ts']);
    expect(besideChanges(['core/src/globals.d.ts', 'app/src/app/app.ts']).page).toEqual(['**/*.spec.ts']);
    expect(besideChanges(['README.md'])).toEqual({ node: null, page: null, journeys: null });
  });
});
