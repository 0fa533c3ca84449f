import '@mantine/core/styles/CloseButton.css';
import '@mantine/core/styles/Loader.css';
import '@mantine/core/styles/Notification.css';
import '@mantine/notifications/styles.css';
import { Notifications } from '@mantine/notifications';

/** Where messages are shown. */
export function Messages() {
  return <Notifications position="bottom-right" autoClose={6000} />;
}
