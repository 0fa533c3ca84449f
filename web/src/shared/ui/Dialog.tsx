import '@mantine/core/styles/CloseButton.css';
import '@mantine/core/styles/Overlay.css';
import '@mantine/core/styles/ModalBase.css';
import '@mantine/core/styles/Modal.css';
import { Modal, type MantineSize } from '@mantine/core';
import { useLayoutEffect, useRef, type ReactNode } from 'react';

/**
 * What is asked or shown over the page. It has the focus as soon as it is there, on what is marked by `data-autofocus`: a key that is
 * pressed at the moment it opens is for it, and not for what lies under it.
 */
export function Dialog({
  title,
  size,
  fixed = false,
  closeOnClickOutside,
  children,
  onClose,
}: {
  title: string;
  size?: MantineSize;
  /** It can't be closed, only answered. */
  fixed?: boolean;
  closeOnClickOutside?: boolean;
  children: ReactNode;
  onClose?: () => void;
}) {
  return (
    <Modal
      opened
      size={size}
      withCloseButton={!fixed}
      closeOnClickOutside={closeOnClickOutside}
      onClose={() => {
        if (!fixed) onClose?.();
      }}
      title={<b>{title}</b>}
    >
      <Focused>{children}</Focused>
    </Modal>
  );
}

const TAKES_FOCUS = '[data-autofocus], input, select, textarea, button, a[href]';

/** Takes the focus when it is shown, before the browser handles anything else. */
function Focused({ children }: { children: ReactNode }) {
  const box = useRef<HTMLDivElement>(null);
  useLayoutEffect(() => {
    const here = box.current;
    const within = (part: ParentNode | null | undefined) => [
      ...(part?.querySelectorAll<HTMLElement>(TAKES_FOCUS) ?? []),
    ];
    const inside = within(here);
    const marked = inside.filter((one) => one.dataset.autofocus !== undefined);
    if (!here?.contains(document.activeElement)) {
      // a control that is not shown or can't be used takes none
      [...marked, ...inside, ...within(here?.closest('[role="dialog"]'))].find((one) => {
        one.focus({ preventScroll: true });
        return document.activeElement === one;
      });
    }
    // the trap of the focus looks for the mark a moment later, and would take it away again
    const at = document.activeElement;
    if (at instanceof HTMLElement && here?.contains(at)) at.dataset.autofocus = '';
  }, []);
  return <div ref={box}>{children}</div>;
}
