/** A sentence begins with a capital. @example capitalise('clean at 134') // 'Clean at 134' */
export const capitalise = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
