import { useQuery } from '@tanstack/react-query';
import { useEffect, useEffectEvent, useRef } from 'react';
import { keyOf } from '../api/keyOf';

/**
 * What is found for a text while one types. Enter that comes before the answer is not lost: it takes what the answer begins with,
 * and never something that was found for an earlier text.
 */
export function useHits<T>(
  name: string,
  text: string,
  load: (text: string) => Promise<T[]>,
  onEnter: (hit: T) => void,
) {
  const asked = text.trim();
  const query = useQuery({ queryKey: keyOf('look', name, asked), queryFn: () => load(asked), enabled: asked !== '' });
  const entered = useRef('');
  const hits = query.data ?? [];
  const ready = query.data !== undefined;
  const take = useEffectEvent(() => {
    if (entered.current !== asked) return;
    entered.current = '';
    const [first] = hits;
    if (first !== undefined) onEnter(first);
  });
  useEffect(() => {
    if (ready && asked !== '') take();
  }, [ready, asked]);
  return {
    hits,
    /** the answer for this very text is not there yet */
    looking: asked !== '' && !ready && query.error === null,
    problem: query.error,
    enter: (at: number) => {
      const hit = hits[at];
      if (hit !== undefined) onEnter(hit);
      else if (!ready) entered.current = asked;
    },
  };
}
