import type { Routes } from '@angular/router';
import type { JobShell } from './shell/job-shell';

export const routes: Routes = [
  { path: '', pathMatch: 'full', title: 'Jobs', loadComponent: () => import('./jobs/jobs-page').then((m) => m.JobsPage) },
  { path: 'library', title: 'Library', loadComponent: () => import('./library/library-page').then((m) => m.LibraryPage) },
  { path: 'survey/:id', title: 'Survey', loadComponent: () => import('./survey/survey-page').then((m) => m.SurveyPage) },
  { path: 'label', title: 'Label', loadComponent: () => import('./label/label-page').then((m) => m.LabelPage) },
  { path: 'pair', title: 'Pair', loadComponent: () => import('./pair/pair-page').then((m) => m.PairPage) },
  { path: 'practice', loadChildren: () => import('./practice/practice.routes').then((m) => m.routes) },
  { path: 'simulation', title: 'Simulated devices', loadComponent: () => import('./simulation/simulation-page').then((m) => m.SimulationPage) },
  {
    path: 'job/:id',
    // Asked of the frame itself, so that nothing of a job is loaded before one is opened.
    canDeactivate: [(shell: JobShell | null) => shell?.leaving.mayLeave() ?? true],
    loadComponent: () => import('./shell/job-shell').then((m) => m.JobShell),
    children: [
      { path: '', pathMatch: 'full', redirectTo: 'settings' },
      { path: 'spec', title: 'Spec', loadComponent: () => import('./spec/spec-page').then((m) => m.SpecPage) },
      { path: 'paper/:doc', title: 'Paper', loadComponent: () => import('./paper/paper-page').then((m) => m.PaperPage) },
      { path: 'system', title: 'System', loadComponent: () => import('./system/system-page').then((m) => m.SystemPage) },
      { path: 'settings', title: 'Settings', loadComponent: () => import('./settings/settings-page').then((m) => m.SettingsPage) },
      { path: 'rehearse', title: 'Rehearse', loadComponent: () => import('./rehearse/rehearse-page').then((m) => m.RehearsePage) },
      { path: 'program', title: 'Program', loadComponent: () => import('./program/program-page').then((m) => m.ProgramPage) },
      { path: 'prove', loadChildren: () => import('./prove/prove.routes').then((m) => m.routes) },
      { path: 'hand-over', title: 'Hand over', loadComponent: () => import('./hand-over/hand-over-page').then((m) => m.HandOverPage) },
    ],
  },
  { path: '**', redirectTo: '' },
];
