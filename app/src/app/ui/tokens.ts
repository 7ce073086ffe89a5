/** Colours of `tokens.css` that something needs which cannot read custom properties itself: plots and documents. */
export type ColourToken =
  | 'absorb'
  | 'attention'
  | 'attention-wash'
  | 'cold'
  | 'copper'
  | 'float'
  | 'ink'
  | 'ink-2'
  | 'paper'
  | 'rule'
  | 'rule-mid'
  | 'rule-strong'
  | 'stop'
  | 'surface'
  | 'tx-cold'
  | 'tx-float';

/**
 * A token's colour as it counts on this page now, also where the reader asked for more contrast.
 * @param opacity 0 (clear) to 1; below 1 it is written as the last two digits of `#rrggbbaa`.
 * @returns `#rrggbb` or `#rrggbbaa`; black where the page has no such token.
 */
export function colour(token: ColourToken, opacity = 1): string {
  const said = getComputedStyle(document.documentElement).getPropertyValue(`--ck-${token}`).trim();
  if (said === '') return 'black';
  if (opacity >= 1) return said;
  return `${said}${Math.round(Math.max(0, opacity) * 255)
    .toString(16)
    .padStart(2, '0')}`;
}
