import { DestroyRef, inject, Injectable } from '@angular/core';

const headings = 'h1, h2, h3, h4, legend, caption';
/** What is worth landing on: no text field, which would open a phone's keyboard unasked. */
const stops = 'a[href], button:not([disabled]), select:not([disabled]), summary, [tabindex="0"]';
const regions = 'section, aside, main, form, [role=group], [role=region]';

const seen = (element: HTMLElement): boolean => element.getClientRects().length > 0;
/** The first of a kind that is seen: the element itself, or one in it. */
function firstIn(element: Element, kind: string): HTMLElement | null {
  const all = [...(element.matches(kind) ? [element] : []), ...element.querySelectorAll(kind)];
  return all.find((e): e is HTMLElement => e instanceof HTMLElement && seen(e)) ?? null;
}
const landing = (element: Element | null): HTMLElement | null => (element ? (firstIn(element, headings) ?? firstIn(element, stops)) : null);

/**
 * Where the focus goes when what held it left the page: the head of what came in its place, else what followed it, else what stood before it, else the head of
 * the part it was in; null where the page has none of these.
 *
 * @param place what it, or the part that held it, was in
 * @param came what was put into that place in the same moment
 * @param next what followed it
 * @param before what stood before it
 */
export function focusAfter(place: Element, came: readonly Element[], next: Node | null, before: Node | null): HTMLElement | null {
  for (const element of came) {
    const found = landing(element);
    if (found) return found;
  }
  for (let node = next; node; node = node.nextSibling) {
    const found = node instanceof Element ? (firstIn(node, stops) ?? landing(node)) : null;
    if (found) return found;
  }
  for (let node = before; node; node = node.previousSibling) {
    const found = node instanceof Element ? (firstIn(node, stops) ?? landing(node)) : null;
    if (found) return found;
  }
  for (let part = place.closest(regions); part; part = part.parentElement?.closest(regions) ?? null) {
    const found = firstIn(part, headings);
    if (found) return found;
  }
  return firstIn(place.ownerDocument.body, 'h1');
}

/** Gives the focus to an element, whether or not it can be tabbed to, and leaves the page where it is scrolled to. */
export function land(element: HTMLElement): void {
  if (!element.matches(`${stops}, [tabindex]`)) element.tabIndex = -1;
  element.focus({ preventScroll: true });
}

/** Keeps whoever works by keys or by ear where the work is: when the button just pressed is gone, the focus does not fall to the page’s start. One that is only shut for a while keeps its place. */
@Injectable({ providedIn: 'root' })
export class FocusKeeper {
  constructor() {
    let held: Element | null = null;
    const note = (event: FocusEvent): void => {
      held = event.target instanceof Element ? event.target : null;
    };
    const watch = new MutationObserver((records) => {
      const lost = held;
      if (!lost || lost.isConnected || document.activeElement !== document.body) return;
      held = null;
      const record = records.findLast((r) => [...r.removedNodes].some((n) => n === lost || n.contains(lost)));
      const place = record?.target;
      if (!record || !(place instanceof Element) || !place.isConnected) {
        const head = document.querySelector<HTMLElement>('h1');
        if (head) land(head);
        return;
      }
      const came = records.flatMap((r) => (r.target === place ? [...r.addedNodes] : [])).filter((n): n is Element => n instanceof Element && n.isConnected);
      const beside = (node: Node | null): Node | null => (node?.isConnected === true ? node : null);
      const to = focusAfter(place, came, beside(record.nextSibling), beside(record.previousSibling));
      if (to) land(to);
    });
    document.addEventListener('focusin', note);
    watch.observe(document.body, { childList: true, subtree: true });
    inject(DestroyRef).onDestroy(() => {
      document.removeEventListener('focusin', note);
      watch.disconnect();
    });
  }
}
