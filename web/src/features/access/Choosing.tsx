import type { KitAnswer, Role } from '../../api/types';
import { t } from '../../texts';
import { Labelled } from '../../ui/Dialog';

const ROLES: Role[] = ['technician', 'lead', 'client', 'auditor', 'administrator'];

/** What somebody is; one may be several. */
export function RolesField({ roles, onChange }: { roles: Role[]; onChange: (roles: Role[]) => void }) {
  return (
    <fieldset className="mb-3">
      <legend className="mb-1 text-label font-semibold text-ink-2">{t('access.roles')}</legend>
      {ROLES.map((role) => (
        <label key={role} className="flex min-h-11 items-center gap-3 border-b border-hairline">
          <input
            type="checkbox"
            className="size-6 accent-ink"
            checked={roles.includes(role)}
            onChange={(e) => onChange(e.target.checked ? [...roles, role] : roles.filter((r) => r !== role))}
          />
          <span className="font-semibold">{t(`role.${role}`)}</span>
          <span className="text-label text-ink-2">{t(`role.${role}.is`)}</span>
        </label>
      ))}
    </fieldset>
  );
}

/** Who somebody is in the job at hand. */
export function PersonField({
  people,
  taken,
  value,
  onChange,
}: {
  people: KitAnswer['people'];
  taken: string[];
  value: string;
  onChange: (id: string) => void;
}) {
  return (
    <Labelled label={t('access.person')}>
      <select className="field" value={value} onChange={(e) => onChange(e.target.value)}>
        <option value="">{t('access.no-person')}</option>
        {people
          .filter((p) => !p.left && (!taken.includes(p.id) || p.id === value))
          .map((p) => (
            <option key={p.id} value={p.id}>
              {p.name}
            </option>
          ))}
      </select>
    </Labelled>
  );
}
