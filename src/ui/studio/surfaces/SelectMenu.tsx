'use client';

import { facingOf } from '@/core/mesh/naming';
import { alike } from '@/core/project/alike';
import { laidAlone } from '@/core/project/runs';
import { useProject } from '../../project/projectStore';
import { useSelection } from '../../project/selection';
import { newId } from '../../shared/ids';
import { TextField } from '../../shared/fields';
import { Menu } from '../../shared/Menu';

/** Picks by what surfaces have in common. */
export function SelectMenu({ shown }: { shown: () => string[] }) {
  return (
    <Menu align="right" label="Pick" title="Pick by what they share">
      {(close) => <Choices shown={shown} close={close} />}
    </Menu>
  );
}

/** Worked out when the menu is open: it goes through all surfaces. */
function Choices({ shown, close }: { shown: () => string[]; close: () => void }) {
  const project = useProject((s) => s.project)!;
  const run = useProject((s) => s.run);
  const ids = useSelection((s) => s.ids);
  const select = useSelection((s) => s.select);
  const foresee = useSelection((s) => s.foresee);
  const first = ids[0] ? project.surfaces[ids[0]] : undefined;
  const all = laidAlone(project);
  const facing = first ? facingOf(first.normal, project.northDeg) : null;
  const hidden = all.filter((s) => s.hidden).map((s) => s.id);
  const locked = Object.values(project.parts).filter((p) => p.locked);
  const choices: [string, string[]][] = [
    ['All that are shown', shown()],
    ['All that are bare', all.filter((s) => !s.spec && !s.leftBare).map((s) => s.id)],
  ];
  if (first) {
    choices.push([
      facing === 'round' ? 'All curved ones' : `All that face ${facing}`,
      all.filter((s) => facingOf(s.normal, project.northDeg) === facing).map((s) => s.id),
    ]);
    choices.push([
      'All with this material',
      all.filter((s) => s.spec?.material === first.spec?.material).map((s) => s.id),
    ]);
    choices.push(['All alike: facing, size and material', alike(project, first).map((s) => s.id)]);
    choices.push(['All of this part', all.filter((s) => s.part === first.part).map((s) => s.id)]);
    choices.push([
      'All of the same slot',
      all
        .filter((s) => s.slot === first.slot && project.parts[s.part].model === project.parts[first.part].model)
        .map((s) => s.id),
    ]);
  }
  return (
    <>
      {choices.map(([label, list]) => (
        <button
          key={label}
          type="button"
          className="tool"
          onMouseEnter={() => foresee(list)}
          onMouseLeave={() => foresee([])}
          onClick={() => (foresee([]), select(list), close())}
        >
          {label} <span className="num quiet ml-auto pl-3 text-2xs">{list.length}</span>
        </button>
      ))}
      <hr className="hair my-1" />
      {Object.values(project.selections).map((s) => (
        <div key={s.id} className="flex items-center">
          <button
            type="button"
            className="tool flex-1"
            onClick={() => (select(s.surfaces.filter((id) => project.surfaces[id])), close())}
          >
            {s.name}
          </button>
          <button
            type="button"
            className="tool"
            aria-label={`Forget ${s.name}`}
            title="Forget it"
            onClick={() => run([{ kind: 'removeSelection', id: s.id }])}
          >
            ×
          </button>
        </div>
      ))}
      {hidden.length > 0 && (
        <button
          type="button"
          className="tool"
          onClick={() => (run([{ kind: 'setSurfaces', ids: hidden, hidden: false }]), close())}
        >
          Show all hidden <span className="num quiet ml-auto pl-3 text-2xs">{hidden.length}</span>
        </button>
      )}
      {locked.length > 0 && (
        <button
          type="button"
          className="tool"
          onClick={() => (run([{ kind: 'setParts', ids: locked.map((p) => p.id), locked: false }]), close())}
        >
          Unlock all <span className="num quiet ml-auto pl-3 text-2xs">{locked.length}</span>
        </button>
      )}
      <div className="p-1">
        <TextField
          label={`Keep ${ids.length} picked as`}
          value=""
          onChange={(name) => {
            if (name && ids.length)
              run([{ kind: 'saveSelection', selection: { id: newId('selection'), name, surfaces: ids } }]);
          }}
        />
      </div>
    </>
  );
}
