import '@mantine/core/styles/Menu.css';
import { Menu, useMantineColorScheme } from '@mantine/core';
import { answer, client, type Problem } from '../shared/api/http';
import { useSession } from '../shared/session';
import { tellProblem } from '../shared/ui';

/** What is about whoever is signed in. */
export function UserMenu({
  onKeys,
  onAway,
  onPassword,
}: {
  onKeys: () => void;
  onAway: () => void;
  onPassword: () => void;
}) {
  const session = useSession();
  const { setColorScheme } = useMantineColorScheme();
  const signOut = async () => {
    try {
      await answer(client.DELETE('/api/session'));
      // nothing that was seen or typed stays
      window.location.assign('/');
    } catch (problem) {
      tellProblem(problem as Problem);
    }
  };
  return (
    <Menu position="bottom-end">
      <Menu.Target>
        <button className="plain nowrap ink-inherit">{session.username}</button>
      </Menu.Target>
      <Menu.Dropdown>
        <Menu.Item disabled className="menu-who">
          {session.displayName}, {session.role.toLowerCase()}
          {session.standsInFor.length > 0 && `, standing in for the ${session.standsInFor.join(' and ').toLowerCase()}`}
        </Menu.Item>
        <Menu.Item onClick={() => setColorScheme('light')}>Light</Menu.Item>
        <Menu.Item onClick={() => setColorScheme('dark')}>Dark</Menu.Item>
        <Menu.Item onClick={() => setColorScheme('auto')}>System setting</Menu.Item>
        <Menu.Divider />
        <Menu.Item onClick={onAway}>While you are away</Menu.Item>
        <Menu.Item onClick={onPassword}>Change your password</Menu.Item>
        <Menu.Item onClick={onKeys}>Keys</Menu.Item>
        <Menu.Item onClick={signOut}>Sign out</Menu.Item>
      </Menu.Dropdown>
    </Menu>
  );
}
