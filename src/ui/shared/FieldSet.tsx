import type { ReactNode } from 'react';

/** Fields that belong together, under their heading, in as many columns as there is room for. */
export function FieldSet({ title, children }: { title: string; children: ReactNode }) {
  return (
    <fieldset className="col-span-full border-t border-base-300 pt-0.5 first:border-t-0">
      <legend className="pr-2 text-2xs font-semibold">{title}</legend>
      <div className="grid grid-cols-[repeat(auto-fill,minmax(126px,1fr))] items-end gap-x-2 gap-y-1.5">{children}</div>
    </fieldset>
  );
}
