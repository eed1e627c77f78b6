/** What a dragged swatch of the library carries: its material's id. */
export const SWATCH = 'application/x-jute-grid-material';
