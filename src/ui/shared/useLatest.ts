'use client';

import { useEffect, useRef, useState } from 'react';

export interface Answer<T> {
  key: string;
  /** Null when it could not be had. */
  value: T | null;
}

/**
 * Asks for the newest key, one question at a time: keys that come and go while one is under way are passed over. The
 * last answer stays until a newer is there.
 */
export function useLatest<T>(key: string | null, ask: (key: string) => Promise<T>): Answer<T> | null {
  const [answer, setAnswer] = useState<Answer<T> | null>(null);
  const wanted = useRef<string | null>(null);
  const running = useRef(false);
  const question = useRef(ask);
  useEffect(() => {
    question.current = ask;
  });
  useEffect(() => {
    const settle = (asked: string, value: T | null) => {
      running.current = false;
      // what nobody waits for any more is not shown
      if (wanted.current !== null) setAnswer({ key: asked, value });
      if (wanted.current !== asked) next();
    };
    const next = () => {
      const asked = wanted.current;
      if (running.current || asked === null) return;
      running.current = true;
      question.current(asked).then(
        (value) => settle(asked, value),
        () => settle(asked, null),
      );
    };
    wanted.current = key;
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
