import { useDocumentTitle } from '@mantine/hooks';
import { useMatches } from 'react-router';
import { words } from '../shared/format';

/** The title of a page with the parameters of its address put in; a number stays as it is, a tab becomes words. */
export function titleOf(title: string, params: Record<string, string | undefined>): string {
  const named = title.replace(/:(\w+)/g, (_, key: string) => {
    const value = params[key] ?? '';
    return key === 'tab' && value ? `\u00b7 ${words(value.replaceAll('-', '_'))}` : value;
  });
  return `${named.trim()} \u00b7 Euthyna`;
}

/** Gives the window the title of the page that is shown, so that tabs and bookmarks can be told apart. */
export function usePageTitle() {
  const match = useMatches().at(-1);
  const { title } = (match?.handle ?? { title: 'Euthyna' }) as { title: string };
  useDocumentTitle(titleOf(title, match?.params ?? {}));
}
