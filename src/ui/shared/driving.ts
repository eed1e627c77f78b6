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

/** How number fields take sums of named values, where what they change can follow one. */
export interface Driving {
  names: Names;
  /** Something that is picked follows a sum; else no field need ask. */
  any: boolean;
  /** The sum that drives what a field changes; null where none does, or several do. */
  sumOf(change: (value: number) => void, value: number): string | null;
  /** Makes what a field changes follow a sum that comes to `value`; false where it cannot. */
  follow(typed: TypedSum, change: (value: number) => void, value: number): boolean;
}

export const DrivingContext = createContext<Driving | null>(null);
