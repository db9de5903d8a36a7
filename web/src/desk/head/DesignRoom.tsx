import { useCallback, useEffect } from 'react';
import { NavLink, Outlet, useLocation, useNavigate, useParams } from 'react-router';
import { bench } from '../state/bench.js';
import { useAppDispatch, useAppSelector } from '../state/index.js';
import { onBench, redo, undo } from '../state/editing.js';
import { openDesign } from '../state/open-design.js';
import { hasNews } from '../../sync/outbox.js';
import { closeIdle } from '../../sync/post.js';
import { command } from '../commands/command.js';
import { EVERYWHERE, useOffer } from '../commands/registry.js';
import { useDesignFiles } from '../files/useDesignFiles.js';
import { Header } from './Header.js';
import { NotFound } from './NotFound.js';
import { Notices } from './Notices.js';
import { ProofContext } from './ProofContext.js';
import { RoomBoundary } from './RoomBoundary.js';
import { SaveState } from './SaveState.js';
import { Seal } from './Seal.js';
import { Title } from './Title.js';
import { UndoRedo } from './UndoRedo.js';
import { useSealed } from './useSealed.js';

const TAB =
  'inline-flex items-center rounded-sm px-2.5 py-1 text-[14px] whitespace-nowrap max-md:px-1 max-md:text-[13px] touch:h-11 touch:min-w-11 touch:justify-center hover:bg-wash aria-[current=page]:bg-peat aria-[current=page]:text-chalk';

/** The rooms of a design, where they are and what they are called. */
const ROOMS = [
  ['', 'Bench'],
  ['/cloth', 'Cloth'],
  ['/words', 'Words'],
  ['/setting-out', 'Setting out'],
  ['/machine', 'Machine'],
  ['/needles', 'Needles'],
] as const;

/** Everything that looks at one design: opened once, shown in its rooms. */
export function DesignRoom() {
  const { id = '' } = useParams();
  const dispatch = useAppDispatch();
  const design = useAppSelector((s) => onBench(s)?.document);
  // The saved version it is; none while it has changes that are not saved.
  const version = useAppSelector((s) => {
    const box = onBench(s);
    return box && !hasNews(box) ? box.base : null;
  });
  const failure = useAppSelector((s) => s.bench.failure);
  const toSee = useAppSelector((s) => s.bench.toSee);

  useEffect(() => {
    void dispatch(openDesign(id));
    return () => {
      dispatch(bench.cleared({ id: null }));
      dispatch(closeIdle());
    };
  }, [dispatch, id]);

  const { pathname } = useLocation();
  const room = ROOMS.find(([path]) => path && pathname.endsWith(path))?.[1] ?? ROOMS[0][1];
  const open = design?.id === id ? design : null;
  useEffect(() => {
    document.title = open ? `${toSee ? `(${toSee}) ` : ''}${room} – ${open.title} – Cordelina` : 'Cordelina';
  }, [open, toSee, room]);

  const proof = useSealed(open, version);
  const navigate = useNavigate();
  useOffer(
    EVERYWHERE,
    ROOMS.map(([path, name]) =>
      command(`to-${name}`, `Go to ${name}`, EVERYWHERE, () => void navigate(`/designs/${id}${path}`)),
    ),
  );

  const files = useDesignFiles(id);

  if (failure) return <NotFound message={failure} />;
  return (
    <ProofContext value={proof}>
      <div className="flex h-full flex-col print:block print:h-auto" {...files.drop}>
        <Header title={open && <Title title={open.title} />}>
          {/* On a phone or a tablet the rooms stand in a line of their own. */}
          <nav
            aria-label="Rooms"
            className="mx-auto flex gap-1 max-[900px]:order-last max-[900px]:mx-0 max-[900px]:h-11 max-[900px]:basis-full max-[900px]:items-center max-md:justify-between"
          >
            {ROOMS.map(([path, name]) => (
              <NavLink key={path} to={`/designs/${id}${path}`} end className={TAB}>
                {name}
              </NavLink>
            ))}
          </nav>
          {open && (
            <>
              <DesignHistory />
              <SaveState onSaveCopy={files.saveCopy} onBringBack={files.bringBack} />
              <Seal />
            </>
          )}
        </Header>
        <Notices />
        {open && files.sheets}
        {open ? (
          <RoomBoundary>
            <Outlet />
          </RoomBoundary>
        ) : (
          <p className="m-auto text-slate">Opening …</p>
        )}
      </div>
    </ProofContext>
  );
}

/** Undo and redo of the design in hand. */
function DesignHistory() {
  const dispatch = useAppDispatch();
  const last = useAppSelector((s) => onBench(s)?.done.at(-1)?.label ?? null);
  const next = useAppSelector((s) => onBench(s)?.undone.at(-1)?.label ?? null);
  const onUndo = useCallback(() => dispatch(undo()), [dispatch]);
  const onRedo = useCallback(() => dispatch(redo()), [dispatch]);
  return <UndoRedo last={last} next={next} onUndo={onUndo} onRedo={onRedo} />;
}
