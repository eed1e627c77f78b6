/** Headers that the front alone can say: what comes in under these names is written over. */
export const FROM = 'x-jute-grid-from';
export const NONCE = 'x-jute-grid-nonce';
