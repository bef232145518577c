/** How large a table may be that is brought in: bytes, rows, columns, characters of a cell. */
export const fileLimits = { bytes: 8_000_000, rows: 20_000, columns: 80, cell: 10_000 };
