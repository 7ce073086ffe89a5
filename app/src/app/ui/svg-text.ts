/** Sizes and names of the page's own that mean nothing in a file. */
const inner = /^(_ng|aria-|data-|ng-|ck)|^(tabindex|role|class|side)$/;

/**
 * A drawing of the page as a document of its own: the textures it refers to are taken along, colours that the page names are written out, and nothing of the
 * page is needed to show it.
 */
export function svgText(drawing: SVGSVGElement): string {
  const copy = drawing.cloneNode(true) as SVGSVGElement;
  copy.setAttribute('xmlns', 'http://www.w3.org/2000/svg');
  copy.setAttribute('font-family', "'Atkinson Hyperlegible Next', 'Atkinson Hyperlegible Next Variable', sans-serif");
  // What only a finger needs, and what only the eye of the page sees.
  copy.querySelectorAll('.hit').forEach((element) => {
    element.remove();
  });
  // A shift inside an anchored line is read differently from program to program; a space is not.
  copy.querySelectorAll('tspan[dx]').forEach((part) => {
    part.removeAttribute('dx');
    part.textContent = `\u00a0${part.textContent.trim()}`;
  });
  const used = new Set([...copy.outerHTML.matchAll(/url\(#([\w-]+)\)/g)].map((m) => m[1] ?? ''));
  const own = new Set([...copy.querySelectorAll('pattern')].map((pattern) => pattern.id));
  const defs = document.createElementNS('http://www.w3.org/2000/svg', 'defs');
  for (const id of used) {
    const pattern = own.has(id) ? null : document.getElementById(id);
    if (pattern) defs.append(pattern.cloneNode(true));
  }
  copy.prepend(defs);
  for (const element of [copy, ...copy.querySelectorAll('*')])
    for (const { name } of [...element.attributes]) if (inner.test(name)) element.removeAttribute(name);
  const tokens = getComputedStyle(document.documentElement);
  return new XMLSerializer()
    .serializeToString(copy)
    .replace(/<!--.*?-->/g, '')
    .replace(/var\((--[\w-]+)\)/g, (whole, token: string) => tokens.getPropertyValue(token).trim().replaceAll('"', "'") || whole);
}
