import { createContext } from 'react';
import type { DecimalSign } from '@/core/units/digits';
import type { LengthUnit, Names } from '@/core/units/length';

/** A sum with names in it, as it was typed. */
export interface TypedSum {
  sum: string;
  unit: LengthUnit;
  sign: Exclude<DecimalSign, null>;
  of: 'length' | 'number' | 'angle';
}

/** A number of a field: its sum, what that comes to, and how it is changed alone. */
export interface Followed {
  typed: TypedSum;
  value: number;
  change(value: number): void;
}

/** How number fields take sums of named values, where what they change can follow one. */
export interface Driving {
  names: Names;
  /** Something that is picked follows a sum; else no field need ask. */
  any: boolean;
  /** The sum that drives what a field changes; null where none does, or several do. */
  sumOf(change: (value: number) => void, value: number): string | null;
  /** Changes something once, and makes what each number of it changes follow its sum; false where one cannot. */
  follow(numbers: readonly Followed[], apply: () => void): boolean;
}

export const DrivingContext = createContext<Driving | null>(null);
