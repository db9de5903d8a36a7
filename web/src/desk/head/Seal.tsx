import { CheckCheck, Hourglass, TriangleAlert } from 'lucide-react';
import { useSeal } from './ProofContext.js';

/** Whether the words have been proved against the chart, and at which numbers of repeats. */
export function Seal({ long }: { long?: boolean }) {
  const seal = useSeal();
  if (!seal)
    return (
      <span
        className="inline-flex items-center gap-1 text-[13px] whitespace-nowrap text-slate"
        data-proof="working"
      >
        <Hourglass size={14} aria-hidden /> <span className={long ? '' : 'max-md:sr-only'}>proving …</span>
      </span>
    );
  if (!seal.checked)
    return (
      <span
        className="inline-flex items-center gap-1 text-[13px] whitespace-nowrap text-madder"
        data-proof="open"
      >
        <TriangleAlert size={14} aria-hidden />{' '}
        <span className={long ? '' : 'max-md:sr-only'}>not proved</span>
        {long && seal.problem && <>: {seal.problem}</>}
      </span>
    );
  const [tried, ...others] = seal.against;
  const repeats = others.length
    ? 'each chart’s own numbers of repeats'
    : `${tried!.join(', ').replace(/, (\d+)$/, ' and $1')} ${tried!.join() === '1' ? 'repeat' : 'repeats'}`;
  return (
    <span
      className="inline-flex items-center gap-1 text-[13px] whitespace-nowrap text-lichen"
      data-proof="proved"
      title={`Read back, worked on a needle with ${repeats}, and equal to the chart, stitch by stitch.`}
    >
      <CheckCheck size={15} aria-hidden /> <span className={long ? '' : 'max-md:sr-only'}>proved</span>
      {long && (
        <>
          {' '}
          against the {others.length ? 'charts' : 'chart'}, worked with {repeats}
        </>
      )}
    </span>
  );
}
