import type { Person } from '@/api/types';

export const ROLES: readonly [Person['role'], string][] = [
  ['viewer', 'looks'],
  ['maintainer', 'applies and undoes'],
  ['owner', 'also connects sites, archives for good, and looks after people'],
];
