'use client';

import { type KeyboardEvent, type PointerEvent, useContext, useEffect, useId, useRef, useState } from 'react';
import {
  type Parsed,
  parseAngle,
  parseLength,
  parseNumber,
  formatLength,
  type LengthUnit,
  type Names,
  namesIn,
  trimNumber,
} from '@/core/units/length';

import type { DecimalSign } from '@/core/units/digits';
import { inHabit, useDecimalSign } from './decimalSign';
import { DrivingContext } from './driving';
import { enterField, SumMark } from './SumMark';
import { EitherNumber } from './EitherNumber';

export const MIXED = Symbol('mixed');
const PERCENT = /^(.+)%\s*$/;

export interface ValueFieldProps {
  label: string;
  /** MIXED when several surfaces differ, null when there is nothing to show. */
  value: number | typeof MIXED | null;
  /** `gesture` groups the steps of one scrub or one held key into one history entry. */
  onChange: (value: number, gesture?: string) => void;
  /** Where values differ: moves each by so much, and keeps them different. */
  onStep?: (by: number, gesture: string) => void;
  kind: 'length' | 'angle' | 'number';
  unit?: LengthUnit;
  min?: number;
  max?: number;
  /** What one press of an arrow key adds; Shift ×10, Alt ÷10. */
  step?: number;
  disabled?: boolean;
  hideLabel?: boolean;
  title?: string;
  decimals?: number;
  suffix?: string;
  /** Takes what is typed in percent, for a length that can be so much of another. */
  onPercent?: (percent: number) => void;
}

/**
 * A number that takes any unit and sums. Enter or leaving the field applies, Escape restores, arrows step, dragging on
 * the label scrubs.
 */
export function ValueField(props: ValueFieldProps) {
  const { label, value, onChange, min = -Infinity, max = Infinity, step = 1, disabled } = props;
  const id = useId();
  const [draft, setDraft] = useState<string | null>(null);
  const [error, setError] = useState<string | null>(null);
  const known = typeof value === 'number' ? value : 0;
  const gesture = useRef<string | null>(null);
  const sign = useDecimalSign((s) => s.sign);
  const driving = useContext(DrivingContext);
  // found after drawing: asking tries a change, which must not happen while one draws
  const [sum, setSum] = useState<string | null>(null);
  const asks = !!driving?.any && typeof value === 'number' && !disabled;
  const latest = useRef(onChange);
  useEffect(() => {
    latest.current = onChange;
  });
  useEffect(() => {
    setSum(asks ? driving.sumOf((v) => latest.current(v), value) : null);
  }, [asks, driving, value]);
  const [either, setEither] = useState<[number, number] | null>(null);
  const shown = draft ?? (value === MIXED || value === null ? '' : inHabit(format(value, props), sign));

  useEffect(() => {
    setError(null);
    setEither(null);
  }, [value]);

  const clamp = (v: number) => Math.min(max, Math.max(min, v));

  function commit(text: string): boolean {
    if (sum !== null && text.trim() === sum) {
      setDraft(null);
      return true;
    }
    const percent = props.onPercent && PERCENT.exec(text)?.[1];
    if (percent) {
      const read = parseNumber(percent, sign);
      if (read.ok && read.value > 0) {
        setDraft(null);
        setError(null);
        props.onPercent!(read.value);
        return true;
      }
    }
    const follows = !!driving && namesIn(text).some((name) => driving.names.has(name));
    const parsed = parse(text, props, sign, driving?.names);
    if (!parsed.ok) {
      setError(parsed.error);
      setEither(parsed.either ?? null);
      return false;
    }
    return take(parsed.value, follows ? text.trim() : null);
  }

  function take(read: number, following: string | null = null): boolean {
    if (read < min || read > max) {
      const limit = read < min ? `at least ${format(min, props)}` : `at most ${format(max, props)}`;
      setError(`it must be ${limit}`);
      return false;
    }
    setError(null);
    setEither(null);
    setDraft(null);
    if (following !== null && driving) {
      const typed = { sum: following, unit: props.unit ?? 'mm', sign: sign ?? '.', of: props.kind };
      const change = (v: number) => onChange(v);
      if (driving.follow([{ typed, value: read, change }], () => change(read))) return true;
      setError('this number is worked out from others: it cannot follow a sum');
      return false;
    }
    if (typeof value !== 'number' || Math.abs(read - value) > 1e-9 || sum !== null) onChange(read);
    return true;
  }

  function nudge(direction: number, e: { shiftKey: boolean; altKey: boolean }, group: string) {
    const size = step * (e.shiftKey ? 10 : e.altKey ? 0.1 : 1);
    if (value === MIXED && draft === null) return props.onStep?.(direction * size, group);
    const base = draft === null ? known : readOr(draft, props, sign, known);
    const next = clamp(Math.round((base + direction * size) * 1e6) / 1e6);
    setDraft(null);
    setError(null);
    onChange(next, group);
  }

  function onKeyDown(e: KeyboardEvent<HTMLInputElement>) {
    if (e.key === 'Enter') {
      if (draft !== null && commit(draft)) e.currentTarget.select();
    } else if (e.key === 'Escape') {
      setDraft(null);
      setError(null);
      e.stopPropagation();
    } else if (e.key === 'ArrowUp' || e.key === 'ArrowDown') {
      e.preventDefault();
      gesture.current ??= `${id}-${Date.now()}`;
      nudge(e.key === 'ArrowUp' ? 1 : -1, e, gesture.current);
    }
  }

  function scrub(e: PointerEvent<HTMLLabelElement>) {
    if (disabled || e.button !== 0) return;
    const target = e.currentTarget;
    const startX = e.clientX;
    const start = known;
    const group = `${id}-${Date.now()}`;
    let moved = false;
    let stepped = 0;
    const move = (m: globalThis.PointerEvent) => {
      const dx = Math.round((m.clientX - startX) / 3);
      if (!dx && !moved) return;
      moved = true;
      const size = step * (m.shiftKey ? 10 : m.altKey ? 0.1 : 1);
      if (value === MIXED) {
        props.onStep?.((dx - stepped) * size, group);
        stepped = dx;
      } else onChange(clamp(Math.round((start + dx * size) * 1e6) / 1e6), group);
    };
    const end = () => {
      target.removeEventListener('pointermove', move);
      target.removeEventListener('pointerup', end);
    };
    target.setPointerCapture(e.pointerId);
    target.addEventListener('pointermove', move);
    target.addEventListener('pointerup', end);
  }

  return (
    <div className="min-w-0">
      <label
        htmlFor={id}
        className={
          props.hideLabel ? 'sr-only' : 'quiet mb-0.5 block cursor-ew-resize touch-none truncate text-2xs select-none'
        }
        onPointerDown={scrub}
        title={props.title ?? 'Drag to change'}
      >
        {label}
        <SumMark sum={sum} />
      </label>
      <input
        id={id}
        className="field num"
        inputMode="text"
        autoComplete="off"
        spellCheck={false}
        disabled={disabled}
        value={shown}
        placeholder={value === MIXED ? 'mixed' : undefined}
        aria-invalid={error !== null}
        aria-describedby={error ? `${id}-error` : undefined}
        onFocus={(e) => enterField(e.currentTarget, sum, setDraft)}
        onChange={(e) => {
          setDraft(e.target.value);
          setError(null);
        }}
        onBlur={() => {
          gesture.current = null;
          if (draft !== null && !commit(draft) && draft.trim() === '') setDraft(null);
        }}
        onKeyUp={(e) => {
          if (e.key === 'ArrowUp' || e.key === 'ArrowDown') gesture.current = null;
        }}
        onKeyDown={onKeyDown}
      />
      {error && (
        <p id={`${id}-error`} role="alert" className="text-error mt-0.5 text-2xs leading-tight">
          {error}
          {either && <EitherNumber either={either} write={(v) => format(v, props)} onChosen={take} />}
        </p>
      )}
    </div>
  );
}

type Kind = Pick<ValueFieldProps, 'kind' | 'unit' | 'suffix'>;

function parse(text: string, { kind, unit = 'mm', suffix = '' }: Kind, sign: DecimalSign, names?: Names): Parsed {
  if (kind === 'length') return parseLength(text, unit, sign, names);
  if (kind === 'angle') return parseAngle(text, sign, names);
  const parsed = parseNumber(text.replace(/(?<![\p{L}\p{N}_])[x]\s*$|[×%]\s*$/u, ''), sign, names);
  // a field that counts in shares of one takes percent as well
  const isShare = /%\s*$/.test(text) && !suffix.includes('%');
  return parsed.ok && isShare ? { ok: true, value: parsed.value / 100 } : parsed;
}

function readOr(text: string, of: Kind, sign: DecimalSign, otherwise: number): number {
  const parsed = parse(text, of, sign);
  return parsed.ok ? parsed.value : otherwise;
}

function format(value: number, { kind, unit = 'mm', decimals, suffix = '' }: ValueFieldProps): string {
  if (kind === 'length') return formatLength(value, unit, { decimals });
  if (kind === 'angle') return `${trimNumber(value, decimals ?? 2)}°`;
  return trimNumber(value, decimals ?? 3) + suffix;
}
