/** A pack that cannot be taken. The message is one line: where and what. */
export class PackError extends Error {}
