import { svgText } from '../ui/svg-text';

/** A drawing of the page as a picture, twice as fine as the page. */
export async function plotAsPng(drawing: SVGSVGElement): Promise<Blob> {
  const url = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svgText(drawing))}`;
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
