import { queryOptions } from '@tanstack/react-query';
import { answer, client, once, type Schemas } from '../../shared/api/http';
import { keyOf } from '../../shared/api/keyOf';

export type Role = Schemas['NewRole']['role'];
export const ROLES: Role[] = ['CLERK', 'WAREHOUSE', 'RECEIVABLES', 'CONTROLLER', 'LEAD', 'AUDITOR', 'ADMIN'];

export const accessQuery = queryOptions({
  queryKey: keyOf('users', 'access'),
  queryFn: () => answer(client.GET('/api/users/access')),
});

export const addUser = (body: Schemas['NewUser']) => answer(client.POST('/api/users', { body, ...once() }));

const of = (username: string) => ({ params: { path: { username } } });

export const setRole = (username: string, role: Role) =>
  answer(client.PUT('/api/users/{username}/role', { ...of(username), body: { role }, ...once() }));

export const setEnabled = (username: string, enabled: boolean) =>
  answer(client.PUT('/api/users/{username}/enabled', { ...of(username), body: { enabled }, ...once() }));

export const setPassword = (username: string, password: string) =>
  answer(client.PUT('/api/users/{username}/password', { ...of(username), body: { password }, ...once() }));
