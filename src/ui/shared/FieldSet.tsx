import type { ReactNode } from 'react';

/**
 * In columns of 126 px and 8 px between them: what is to span more columns than there are would make one more, of
 * whatever is left.
 */
const NO_WIDER =
  '@max-[394px]:[&>.col-span-3]:col-span-full @max-[528px]:[&>.col-span-4]:col-span-full ' +
  '@max-[260px]:[&>.col-span-2]:col-span-full';

/** Fields that belong together, under their heading, in as many columns as there is room for. */
export function FieldSet({ title, children }: { title: string; children: ReactNode }) {
  return (
    <fieldset className="@container col-span-full border-t border-base-300 pt-0.5 first:border-t-0">
      <legend className="pr-2 text-2xs font-semibold">{title}</legend>
      <div className={`grid grid-cols-[repeat(auto-fill,minmax(126px,1fr))] items-end gap-x-2 gap-y-1.5 ${NO_WIDER}`}>
        {children}
      </div>
    </fieldset>
  );
}
