import { CheckCheck, Hourglass, TriangleAlert } from 'lucide-react';
import { useProofState } from './ProofContext.js';

/** Whether the words have been proved against the chart, and at which numbers of repeats. */
export function Seal({ long }: { long?: boolean }) {
  const { proved } = useProofState();
  if (!proved)
    return (
      <span
        className="inline-flex items-center gap-1 text-[13px] whitespace-nowrap text-slate"
        data-proof="working"
      >
        <Hourglass size={14} aria-hidden /> <span className={long ? '' : 'max-md:sr-only'}>proving …</span>
      </span>
    );
  if (!proved.checked)
    return (
      <span
        className="inline-flex items-center gap-1 text-[13px] whitespace-nowrap text-madder"
        data-proof="open"
      >
        <TriangleAlert size={14} aria-hidden />{' '}
        <span className={long ? '' : 'max-md:sr-only'}>not proved</span>
        {long && proved.problems[0] && <>: {proved.problems[0].message}</>}
      </span>
    );
  const [first, ...others] = proved.charts;
  const tried = first!.against;
  const repeats = others.length
    ? 'each chart’s own numbers of'
    : tried.join(', ').replace(/, (\d+)$/, ' and $1');
  return (
    <span
      className="inline-flex items-center gap-1 text-[13px] whitespace-nowrap text-lichen"
      data-proof="proved"
      title={`Read back, worked on a needle with ${repeats} repeats, and equal to the chart, stitch by stitch.`}
    >
      <CheckCheck size={15} aria-hidden /> <span className={long ? '' : 'max-md:sr-only'}>proved</span>
      {long && (
        <>
          {' '}
          against the {others.length ? 'charts' : 'chart'}, worked with {repeats}{' '}
          {!others.length && tried.join() === '1' ? 'repeat' : 'repeats'}
        </>
      )}
    </span>
  );
}
