import { readFileSync } from 'node:fs';
import { inflateSync } from 'node:zlib';

/** Alpha of an 8-bit RGBA PNG, row by row. Source: W3C PNG specification, filters 0–4. @throws on another kind of PNG */
export function readPng(file: string): { width: number; height: number; alpha: (x: number, y: number) => number } {
  const bytes = readFileSync(file);
  const width = bytes.readUInt32BE(16);
  const height = bytes.readUInt32BE(20);
  if (bytes[24] !== 8 || bytes[25] !== 6) throw new Error(`${file} is no 8-bit RGBA PNG`);
  const parts: Buffer[] = [];
  for (let at = 8; at < bytes.length;) {
    const length = bytes.readUInt32BE(at);
    if (bytes.toString('latin1', at + 4, at + 8) === 'IDAT') parts.push(bytes.subarray(at + 8, at + 8 + length));
    at += length + 12;
  }
  const raw = inflateSync(Buffer.concat(parts));
  const stride = width * 4;
  const out = Buffer.alloc(stride * height);
  for (let y = 0; y < height; y++) {
    const filter = raw[y * (stride + 1)]!;
    for (let i = 0; i < stride; i++) {
      const left = i >= 4 ? out[y * stride + i - 4]! : 0;
      const up = y > 0 ? out[(y - 1) * stride + i]! : 0;
      const corner = i >= 4 && y > 0 ? out[(y - 1) * stride + i - 4]! : 0;
      const estimate = left + up - corner;
      const [a, b, c] = [Math.abs(estimate - left), Math.abs(estimate - up), Math.abs(estimate - corner)];
      const paeth = a <= b && a <= c ? left : b <= c ? up : corner;
      out[y * stride + i] = raw[y * (stride + 1) + 1 + i]! + [0, left, up, (left + up) >> 1, paeth][filter]!;
    }
  }
  return { width, height, alpha: (x, y) => out[y * stride + x * 4 + 3]! };
}
