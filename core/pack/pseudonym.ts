import { sha256 } from '@noble/hashes/sha2';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils';

const isPseudonym = (id: string) => /^[0-9a-f]{8}-[0-9a-f]{4}-8[0-9a-f]{3}-[0-9a-f]{4}-[0-9a-f]{12}$/.test(id);

/**
 * The name under which a person or a machine travels: the same in every pack, and no way back to the key it has at home. What came under
 * a pseudonym travels on under it.
 *
 * @returns UUID of version 8 (RFC 9562, 5.8), made of a SHA-256. Keys of accounts are of version 7 and can never be one.
 */
export function pseudonym(kind: string, id: string): string {
  if (isPseudonym(id)) return id;
  const hex = bytesToHex(sha256(utf8ToBytes(`versipel ${kind} ${id}`)));
  const variant = ((parseInt(hex[16]!, 16) & 3) | 8).toString(16);
  return [
    hex.slice(0, 8),
    hex.slice(8, 12),
    `8${hex.slice(13, 16)}`,
    `${variant}${hex.slice(17, 20)}`,
    hex.slice(20, 32),
  ].join('-');
}
