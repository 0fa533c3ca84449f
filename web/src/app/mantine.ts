/*
 * What every page needs of Mantine's styles, in its order; those of a component that comes later come with it, unless we
 * have rules of our own for it: a sheet that comes later would win over them.
 */
import '@mantine/core/styles/baseline.css';
import '@mantine/core/styles/default-css-variables.css';
import '@mantine/core/styles/global.css';
import '@mantine/core/styles/ScrollArea.css';
import '@mantine/core/styles/UnstyledButton.css';
import '@mantine/core/styles/VisuallyHidden.css';
import '@mantine/core/styles/Paper.css';
import '@mantine/core/styles/Popover.css';
import '@mantine/core/styles/Combobox.css';
import '@mantine/core/styles/CloseButton.css';
import '@mantine/core/styles/Input.css';
import '@mantine/dates/styles.css';
