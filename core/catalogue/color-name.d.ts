declare module 'color-name' {
  const names: Record<string, readonly [number, number, number]>;
  export default names;
}
