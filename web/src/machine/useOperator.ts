import {
  differenceOf,
  Operator,
  type Difference,
  type Done,
  type OperatorsList,
  type Stitch,
} from '@cordelina/core';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';

/** A list is worked to its end in turns of so many milliseconds, and the page answers in between. */
const TURN = 12;

/** Things done in a second, by the speeds that can be chosen. */
export const SPEEDS = { slow: 2, fair: 8, quick: 40 } as const;
export type Speed = keyof typeof SPEEDS;

/** An operator at the simulated beds, and what has come of the list so far. */
export interface AtBeds {
  operator: Operator;
  /** What was done last. */
  last: Done | null;
  /** Where the cloth is first another than the chart's, as far as it is knit. */
  difference: Difference | null;
  isRunning: boolean;
  speed: Speed;
  setSpeed: (speed: Speed) => void;
  step: () => void;
  run: () => void;
  stop: () => void;
  toEnd: () => void;
  again: () => void;
}

/** The beds as they stand; each look at them is another object, so that what shows them is drawn anew. */
interface Look {
  operator: Operator;
  last: Done | null;
  difference: Difference | null;
  /** Rows that are known to be as they should. */
  looked: number;
}

const begun = ({ setup, actions, rows }: Pick<OperatorsList, 'setup' | 'actions' | 'rows'>): Look => ({
  operator: new Operator(setup, actions, rows),
  last: null,
  difference: null,
  looked: 0,
});

/** Works a list on the simulated beds: by steps, at a speed, or to its end; begun anew whenever the list is another. */
export function useOperator(
  list: Pick<OperatorsList, 'setup' | 'actions' | 'rows'>,
  wanted: readonly (readonly Stitch[])[],
): AtBeds {
  const { setup, actions, rows } = list;
  const first = useMemo(() => begun({ setup, actions, rows }), [setup, actions, rows]);
  const [at, setAt] = useState<{ of: Look; look: Look }>({ of: first, look: first });
  const look = at.of === first ? at.look : first;
  const [running, setRunning] = useState<{ of: Look; how: 'run' | 'end' } | null>(null);
  const how = running?.of === first ? running.how : null;
  const [speed, setSpeed] = useState<Speed>('fair');
  const now = useRef(look);
  useEffect(() => {
    now.current = look;
  }, [look]);

  const go = useCallback(
    (until: (operator: Operator) => boolean) => {
      const { operator, looked } = now.current;
      let { last } = now.current;
      do last = operator.step() ?? last;
      while (operator.next && !until(operator));
      const difference =
        now.current.difference ?? (wanted.length ? differenceOf(wanted, operator, looked) : null);
      now.current = { operator, last, difference, looked: difference ? looked : operator.cloth.length };
      setAt({ of: first, look: now.current });
      if (!operator.next) setRunning(null);
    },
    [first, wanted],
  );
  useEffect(() => {
    if (!how) return;
    const every = how === 'end' ? 0 : 1000 / SPEEDS[speed];
    const timer = setInterval(() => {
      const until = performance.now() + TURN;
      go(() => how === 'run' || performance.now() > until);
    }, every);
    return () => clearInterval(timer);
  }, [how, speed, go]);

  return {
    operator: look.operator,
    last: look.last,
    difference: look.difference,
    isRunning: how !== null,
    speed,
    setSpeed,
    step: () => {
      setRunning(null);
      if (look.operator.next) go(() => true);
    },
    run: () => setRunning({ of: first, how: 'run' }),
    stop: () => setRunning(null),
    toEnd: () => setRunning({ of: first, how: 'end' }),
    again: () => {
      setRunning(null);
      const anew = begun(list);
      now.current = anew;
      setAt({ of: first, look: anew });
    },
  };
}
