import type { Routes } from '@angular/router';

/** The practice bench: what to practise, an exercise, the front of one device, the book. */
export const routes: Routes = [
  { path: '', pathMatch: 'full', title: 'Practice bench', loadComponent: () => import('./practice-page').then((m) => m.PracticePage) },
  { path: 'bench/:id', title: 'Practice bench', loadComponent: () => import('./bench-page').then((m) => m.BenchPage) },
  { path: 'front/:card', title: 'Front of a device', loadComponent: () => import('./front-page').then((m) => m.FrontPage) },
  { path: 'sheet/:job/:device', title: 'Practise the edits', loadComponent: () => import('./keying-page').then((m) => m.KeyingPage) },
  { path: 'book', title: 'Book of practice', loadComponent: () => import('./book-page').then((m) => m.BookPage) },
];
