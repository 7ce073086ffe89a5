import type { Routes, UrlMatcher } from '@angular/router';

/** “prove” is the newest log and “prove/log/NAME” that one: one page, so that going from log to log draws nothing anew. */
export const oneLog: UrlMatcher = (segments) => {
  const [part, log] = segments;
  if (segments.length === 0) return { consumed: [] };
  return segments.length === 2 && part?.path === 'log' && log ? { consumed: segments, posParams: { log } } : null;
};

export const routes: Routes = [
  { path: 'tests', title: 'Guided tests', loadComponent: () => import('./tests-page').then((m) => m.TestsPage) },
  { path: 'tests/:id', title: 'Guided test', loadComponent: () => import('./test-page').then((m) => m.TestPage) },
  // Links and bookmarks of before.
  { path: 'test/:id', redirectTo: 'tests/:id' },
  { path: 'glance', title: 'What is proved by what', loadComponent: () => import('./glance-page').then((m) => m.GlancePage) },
  { path: 'mapping', title: 'Columns of a log', loadComponent: () => import('./mapping-page').then((m) => m.MappingPage) },
  { matcher: oneLog, title: 'Prove', loadComponent: () => import('./log-page').then((m) => m.LogPage) },
  { path: '**', redirectTo: '' },
];
