declare module 'culori/fn' {
  export type Color = { mode: string; alpha?: number };
  export const colorsNamed: Readonly<Record<string, number>>;
  export const modeRgb: object;
  export const modeLab65: object;
  export function useMode(mode: object): unknown;
  export function parse(text: string): Color | undefined;
  export function formatHex(color: Color | undefined): string | undefined;
  export function converter(mode: string): (color: string | Color) => Color & Record<string, number>;
  export function differenceCiede2000(): (a: string | Color, b: string | Color) => number;
}
