/** Turns by quarter or by number, kept within −180..180. */
export const wrapTurn = (deg: number): number => {
  const wrapped = ((((deg + 180) % 360) + 360) % 360) - 180;
  return wrapped === -180 ? 180 : Math.round(wrapped * 1e4) / 1e4;
};
