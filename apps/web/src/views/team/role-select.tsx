import type { ReactNode } from 'react';
import type { Role } from '../../api/team.js';
import { ROLE_MEANS, ROLES } from './roles.js';

export function RoleSelect({
  label,
  value,
  onValue,
}: {
  label: string;
  value: Role;
  onValue: (role: Role) => void;
}): ReactNode {
  return (
    <select
      className="line"
      aria-label={label}
      value={value}
      onChange={(e) => onValue(e.target.value as Role)}
    >
      {ROLES.map((role) => (
        <option key={role} value={role}>
          {role}: {ROLE_MEANS[role]}
        </option>
      ))}
    </select>
  );
}
