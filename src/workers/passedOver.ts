/**
 * Said of a run that ended because something newer was wanted; apart from the worker, so that both sides can read it.
 */
export const PASSED_OVER = 'passed over for something newer';
