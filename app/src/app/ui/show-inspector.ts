/** On a phone the inspector stands below the work: brings it into view once what was chosen is drawn. */
export function showInspector(): void {
  setTimeout(() => document.querySelector('.insp')?.scrollIntoView({ behavior: matchMedia('(prefers-reduced-motion: reduce)').matches ? 'auto' : 'smooth' }));
}
