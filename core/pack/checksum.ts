import { sha256 } from '@noble/hashes/sha2';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils';
import canonicalize from 'canonicalize';

/**
 * SHA-256 of the canonical form of a JSON value (RFC 8785): keys sorted, numbers as ECMAScript writes them, no white space. The same for
 * everybody who holds the same value, however their file is written.
 *
 * @returns 64 hexadecimal digits
 * @throws Error on a value that JSON cannot hold, and on a lone surrogate
 */
export const checksum = (value: unknown): string => bytesToHex(sha256(utf8ToBytes(canonicalize(value) ?? 'null')));
