/** The drawing as a document of its own: the textures it refers to are taken along, and nothing of the page is needed to show it. */
export function plotAsSvg(drawing: SVGSVGElement): string {
  const copy = drawing.cloneNode(true) as SVGSVGElement;
  copy.setAttribute('xmlns', 'http://www.w3.org/2000/svg');
  copy.setAttribute('font-family', "'Atkinson Hyperlegible Next', 'Atkinson Hyperlegible Next Variable', sans-serif");
  for (const name of [...copy.attributes].map((a) => a.name))
    if (name.startsWith('_ng') || name.startsWith('aria-') || name === 'tabindex' || name === 'role') copy.removeAttribute(name);
  const used = new Set([...copy.outerHTML.matchAll(/url\(#([\w-]+)\)/g)].map((m) => m[1] ?? ''));
  const defs = document.createElementNS('http://www.w3.org/2000/svg', 'defs');
  for (const id of used) {
    const pattern = document.getElementById(id);
    if (pattern) defs.append(pattern.cloneNode(true));
  }
  copy.prepend(defs);
  return new XMLSerializer().serializeToString(copy);
}

/** The same as a picture, twice as fine as the page. */
export async function plotAsPng(drawing: SVGSVGElement): Promise<Blob> {
  const url = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(plotAsSvg(drawing))}`;
  const image = new Image();
  await new Promise((resolve, reject) => {
    image.onload = resolve;
    image.onerror = () => {
      reject(new Error('the drawing cannot be made into a picture'));
    };
    image.src = url;
  });
  const canvas = document.createElement('canvas');
  canvas.width = drawing.clientWidth * 2;
  canvas.height = drawing.clientHeight * 2;
  canvas.getContext('2d')?.drawImage(image, 0, 0, canvas.width, canvas.height);
  return new Promise((resolve, reject) => {
    canvas.toBlob((blob) => {
      if (blob) resolve(blob);
      else reject(new Error('the picture came out empty'));
    }, 'image/png');
  });
}
