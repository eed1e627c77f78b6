'use client';

import { useEffect, useRef, useState } from 'react';

/** A question; the same key is the same question. */
export interface Question {
  key: string;
}

export interface Answer<Q extends Question, T> {
  asked: Q;
  /** Null when it could not be had. */
  value: T | null;
}

/**
 * Asks the newest question, one at a time: those that come and go while one is under way are passed over. The last
 * answer stays until a newer is there.
 */
export function useLatest<Q extends Question, T>(
  question: Q | null,
  ask: (asked: Q) => Promise<T>,
): Answer<Q, T> | null {
  const [answer, setAnswer] = useState<Answer<Q, T> | null>(null);
  const wanted = useRef<Q | null>(null);
  const running = useRef(false);
  const latest = useRef({ question, ask });
  useEffect(() => {
    latest.current = { question, ask };
  });
  const key = question?.key ?? null;
  useEffect(() => {
    const settle = (asked: Q, value: T | null) => {
      running.current = false;
      // what nobody waits for any more is not shown
      if (wanted.current !== null) setAnswer({ asked, value });
      if (wanted.current?.key !== asked.key) next();
    };
    const next = () => {
      const asked = wanted.current;
      if (running.current || asked === null) return;
      running.current = true;
      latest.current.ask(asked).then(
        (value) => settle(asked, value),
        () => settle(asked, null),
      );
    };
    wanted.current = key === null ? null : latest.current.question;
    if (key === null) setAnswer(null);
    else next();
  }, [key]);
  useEffect(
    () => () => {
      wanted.current = null;
    },
    [],
  );
  return answer;
}
