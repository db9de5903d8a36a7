import type { WordSettings } from '@cordelina/core';
import { useEffect, useMemo } from 'react';
import { NavLink, Outlet, useNavigate, useParams } from 'react-router';
import { bench } from '../store/bench.js';
import { useAppDispatch, useAppSelector } from '../store/index.js';
import { keepBoth, openDesign, takeTheirs } from '../store/sync.js';
import { Button } from '../ui/Button.js';
import { useProof } from '../workers/useProof.js';
import { Header } from './Header.js';
import { NotFound } from './NotFound.js';
import { ProofContext } from './ProofContext.js';
import { SaveState } from './SaveState.js';
import { Seal } from './Seal.js';
import { Title } from './Title.js';

const TAB =
  'rounded-sm px-2.5 py-1 text-[14px] hover:bg-wash aria-[current=page]:bg-peat aria-[current=page]:text-chalk';

/** Everything that looks at one design: opened once, shown in its rooms. */
export function DesignRoom() {
  const { id = '' } = useParams();
  const dispatch = useAppDispatch();
  const design = useAppSelector((s) => s.bench.design);
  const failure = useAppSelector((s) => s.bench.failure);
  const conflict = useAppSelector((s) => s.bench.save.kind === 'conflict');

  useEffect(() => {
    dispatch(bench.cleared());
    void dispatch(openDesign(id));
  }, [dispatch, id]);

  const open = design?.id === id ? design : null;
  useEffect(() => {
    document.title = open ? `${open.title} – Cordelina` : 'Cordelina';
  }, [open]);

  const chart = open?.charts[0] ?? null;
  const settings = open?.settings;
  const wording = useMemo<WordSettings | null>(() => {
    if (!settings) return null;
    const { school, names, hand, style, twist, cableless, bobble } = settings;
    return { school, names, hand, style, twist, cableless, bobble };
  }, [settings]);
  const proof = useProof(id, chart, wording);

  if (failure) return <NotFound message={failure} />;
  return (
    <ProofContext value={proof}>
      <div className="flex h-full flex-col print:block print:h-auto">
        <Header title={open && <Title title={open.title} />}>
          <nav aria-label="Rooms" className="mx-auto flex gap-1">
            <NavLink to={`/designs/${id}`} end className={TAB}>
              Bench
            </NavLink>
            <NavLink to={`/designs/${id}/words`} className={TAB}>
              Words
            </NavLink>
          </nav>
          {open && (
            <>
              <SaveState />
              <Seal />
            </>
          )}
        </Header>
        {conflict && <Conflict />}
        {open ? <Outlet /> : <p className="m-auto text-slate">Opening …</p>}
      </div>
    </ProofContext>
  );
}

function Conflict() {
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  return (
    <div role="alert" className="no-print flex items-center gap-3 border-b border-madder bg-chalk px-4 py-2">
      <p className="mr-auto">
        This design was also changed elsewhere, in the same rows. Both versions are safe; nothing has been
        overwritten.
      </p>
      <Button
        tone="main"
        onClick={() => void dispatch(keepBoth()).then((copy) => copy && navigate(`/designs/${copy}`))}
      >
        Keep both
      </Button>
      <Button onClick={() => void dispatch(takeTheirs())}>Use the other version</Button>
    </div>
  );
}
