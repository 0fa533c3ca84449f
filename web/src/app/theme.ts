import { createTheme, type MantineColorsTuple, type ModalProps, type NotificationProps } from '@mantine/core';

const sea: MantineColorsTuple = [
  '#E1ECE8',
  '#C6DCD6',
  '#A3C7BF',
  '#7DB0A7',
  '#559890',
  '#37807A',
  '#276E69',
  '#1D5E5A',
  '#164C49',
  '#0E3A38',
];

export const theme = createTheme({
  primaryColor: 'sea',
  primaryShade: { light: 7, dark: 4 },
  colors: { sea },
  fontFamily: '"Atkinson Hyperlegible Next Variable", sans-serif',
  fontFamilyMonospace: '"Atkinson Hyperlegible Mono Variable", monospace',
  fontSizes: { xs: '12px', sm: '13px', md: '14px', lg: '16px', xl: '19px' },
  headings: { fontFamily: '"Atkinson Hyperlegible Next Variable", sans-serif', fontWeight: '700' },
  defaultRadius: 3,
  components: {
    // by their names: the components themselves come when they are needed
    Modal: {
      defaultProps: {
        closeButtonProps: { 'aria-label': 'Close' },
        centered: true,
        transitionProps: { duration: 0 },
        // what was typed is not lost by a click that missed
        closeOnClickOutside: false,
      } satisfies Partial<ModalProps>,
    },
    Notification: {
      defaultProps: { closeButtonProps: { 'aria-label': 'Close' } } satisfies Partial<NotificationProps>,
    },
  },
});
