/** What decides how a part of a drawing looks; resolved, since an image knows no stylesheet. */
const STYLES = ['fill', 'stroke', 'stroke-width', 'stroke-dasharray', 'opacity', 'font-family', 'font-size', 'font-weight', 'text-anchor'] as const;

/** The drawing of a figure as an image of its own, on the colour of the page. */
export async function saveImage(figure: HTMLElement, name: string, as: 'svg' | 'png'): Promise<void> {
  const svg = figure.querySelector<SVGSVGElement>('.drawing svg.recharts-surface, .drawing svg.pic');
  if (!svg) return;
  const { width, height } = svg.getBoundingClientRect();
  const copy = svg.cloneNode(true) as SVGSVGElement;
  const [from, to] = [
    [svg, ...svg.querySelectorAll('*')],
    [copy, ...copy.querySelectorAll('*')],
  ];
  from.forEach((element, i) => {
    const style = getComputedStyle(element);
    for (const s of STYLES) (to[i] as SVGElement).setAttribute(s, style.getPropertyValue(s));
  });
  copy.setAttribute('xmlns', 'http://www.w3.org/2000/svg');
  copy.setAttribute('width', String(width));
  copy.setAttribute('height', String(height));
  const ground = document.createElementNS('http://www.w3.org/2000/svg', 'rect');
  ground.setAttribute('width', '100%');
  ground.setAttribute('height', '100%');
  ground.setAttribute('fill', getComputedStyle(document.documentElement).getPropertyValue('--color-base-100'));
  copy.prepend(ground);
  const text = new XMLSerializer().serializeToString(copy);
  const blob = new Blob([text], { type: 'image/svg+xml;charset=utf-8' });
  save(as === 'svg' ? blob : await asPng(text, width, height), `${name}.${as}`);
}

/** Twice as large as on the screen, so that it is sharp in print. */
const SCALE = 2;

async function asPng(svg: string, width: number, height: number): Promise<Blob> {
  const image = new Image();
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`;
  await image.decode();
  const canvas = document.createElement('canvas');
  canvas.width = width * SCALE;
  canvas.height = height * SCALE;
  canvas.getContext('2d')!.drawImage(image, 0, 0, canvas.width, canvas.height);
  return new Promise((done, failed) => canvas.toBlob((b) => (b ? done(b) : failed(new Error('no image'))), 'image/png'));
}

function save(blob: Blob, name: string): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(blob);
  link.download = name;
  link.click();
  URL.revokeObjectURL(link.href);
}
