import QRCode from 'qrcode';

/** A QR code (ISO/IEC 18004) as one path on a grid of modules: dark squares row by row. */
function qrOf(text: string): { size: number; d: string } {
  const { modules } = QRCode.create(text, { errorCorrectionLevel: 'L' });
  let d = '';
  for (let y = 0; y < modules.size; y++)
    for (let x = 0; x < modules.size; x++) {
      if (!modules.get(y, x)) continue;
      let end = x;
      while (end < modules.size && modules.get(y, end)) end++;
      d += `M${x} ${y}h${end - x}v1h-${end - x}z`;
      x = end;
    }
  return { size: modules.size, d };
}

/** The code as a picture, with the quiet zone that readers need. */
export function codeSvg(text: string): string {
  const { size, d } = qrOf(text);
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="-2 -2 ${size + 4} ${size + 4}" shape-rendering="crispEdges"><path fill="#fff" d="M-2 -2h${size + 4}v${size + 4}h-${size + 4}z"/><path d="${d}"/></svg>`;
}
