import { definePreset } from '@primeuix/themes';
import Aura from '@primeuix/themes/aura';

const shades = (steps: Record<number, string>) => steps;

/** Our tokens for PrimeNG: paper and ink, nearly square corners, 28 px controls, hairlines for shadows. */
export const workshopPreset = definePreset(Aura, {
  primitive: { borderRadius: { none: '0', xs: '2px', sm: '3px', md: '3px', lg: '3px', xl: '3px' } },
  semantic: {
    transitionDuration: '0.12s',
    focusRing: { width: '2px', style: 'solid', color: '#17616E', offset: '1px', shadow: 'none' },
    disabledOpacity: '0.5',
    iconSize: '0.95rem',
    primary: shades({
      50: '#eaf2f3',
      100: '#cfe1e4',
      200: '#a5c7cd',
      300: '#76aab3',
      400: '#418895',
      500: '#17616E',
      600: '#14555f',
      700: '#104650',
      800: '#0d3840',
      900: '#0a2b31',
      950: '#061c20',
    }),
    formField: {
      paddingX: '8px',
      paddingY: '4px',
      sm: { fontSize: '13px', paddingX: '8px', paddingY: '3px' },
      borderRadius: '3px',
      focusRing: { width: '0', style: 'none', color: 'transparent', offset: '0', shadow: 'none' },
    },
    colorScheme: {
      light: {
        surface: shades({
          0: '#FCFAF5',
          50: '#F4F0E7',
          100: '#ECE6D9',
          200: '#D9D1C1',
          300: '#c4baa6',
          400: '#9a9384',
          500: '#56636A',
          600: '#48545a',
          700: '#1E2A2F',
          800: '#1E2A2F',
          900: '#141d21',
          950: '#0c1214',
        }),
        primary: {
          color: '#17616E',
          contrastColor: '#FCFAF5',
          hoverColor: '#14555f',
          activeColor: '#104650',
        },
        highlight: {
          background: '#1E2A2F',
          focusBackground: '#1E2A2F',
          color: '#FCFAF5',
          focusColor: '#FCFAF5',
        },
        text: { color: '#1E2A2F', hoverColor: '#1E2A2F', mutedColor: '#56636A', hoverMutedColor: '#1E2A2F' },
        formField: {
          background: '#FCFAF5',
          borderColor: '#D9D1C1',
          hoverBorderColor: '#56636A',
          focusBorderColor: '#17616E',
          color: '#1E2A2F',
          placeholderColor: '#56636A',
          shadow: 'none',
        },
        overlay: {
          select: { background: '#FCFAF5', borderColor: '#1E2A2F', color: '#1E2A2F' },
          popover: { background: '#FCFAF5', borderColor: '#1E2A2F', color: '#1E2A2F' },
        },
      },
    },
    overlay: {
      select: { borderRadius: '3px', shadow: 'none' },
      popover: { borderRadius: '3px', shadow: 'none' },
    },
  },
  components: {
    button: {
      root: {
        borderRadius: '3px',
        paddingX: '12px',
        paddingY: '4px',
        label: { fontWeight: '600' },
        iconOnlyWidth: '28px',
        sm: { fontSize: '13px', paddingX: '12px', paddingY: '3px' },
      },
      colorScheme: {
        light: {
          root: {
            danger: {
              background: '#B03A26',
              hoverBackground: '#98311F',
              activeBackground: '#98311F',
              borderColor: '#B03A26',
              hoverBorderColor: '#98311F',
              activeBorderColor: '#98311F',
            },
          },
          outlined: {
            primary: { borderColor: '#17616E', color: '#17616E', hoverBackground: '#17616E14' },
            danger: { borderColor: '#C8412B', color: '#C8412B', hoverBackground: '#C8412B14' },
          },
        },
      },
    },
    togglebutton: {
      root: { borderRadius: '3px', padding: '2px', fontWeight: '500' },
      content: { padding: '1px 7px', borderRadius: '2px', checkedShadow: 'none' },
      colorScheme: {
        light: {
          root: {
            background: '#FCFAF5',
            checkedBackground: '#FCFAF5',
            hoverBackground: '#F4F0E7',
            borderColor: '#D9D1C1',
            color: '#1E2A2F',
            hoverColor: '#1E2A2F',
            checkedColor: '#FCFAF5',
            checkedBorderColor: '#D9D1C1',
          },
          content: { checkedBackground: '#1E2A2F' },
        },
      },
    },
    slider: {
      track: { size: '2px', background: '#D9D1C1' },
      range: { background: '#17616E' },
      handle: {
        width: '9px',
        height: '15px',
        borderRadius: '2px',
        background: '#17616E',
        hoverBackground: '#14555f',
        content: {
          width: '9px',
          height: '15px',
          borderRadius: '2px',
          hoverBackground: '#14555f',
          shadow: 'none',
        },
      },
      colorScheme: { light: { handle: { content: { background: '#17616E' } } } },
    },
    checkbox: {
      root: { borderRadius: '2px', width: '16px', height: '16px', sm: { width: '16px', height: '16px' } },
      icon: { size: '11px', sm: { size: '11px' } },
      colorScheme: {
        light: {
          root: {
            background: '#FCFAF5',
            borderColor: '#56636A',
            hoverBorderColor: '#17616E',
            checkedBackground: '#17616E',
            checkedBorderColor: '#17616E',
          },
        },
      },
    },
    radiobutton: {
      root: { width: '16px', height: '16px', sm: { width: '16px', height: '16px' } },
      icon: { size: '8px', sm: { size: '8px' } },
      colorScheme: {
        light: {
          root: { borderColor: '#56636A', checkedBackground: '#94661C', checkedBorderColor: '#94661C' },
        },
      },
    },
    select: {
      root: { sm: { fontSize: '13px', paddingX: '8px', paddingY: '3px' } },
      dropdown: { width: '26px' },
      option: { padding: '4px 8px', borderRadius: '2px' },
      list: { padding: '3px' },
      overlay: { shadow: 'none' },
    },
    autocomplete: {
      option: { padding: '4px 8px', borderRadius: '2px' },
      list: { padding: '3px' },
      dropdown: { sm: { width: '28px' } },
      overlay: { shadow: 'none' },
    },
    accordion: {
      panel: { borderWidth: '0 0 1px 0', borderColor: '#D9D1C1' },
      header: {
        padding: '0 14px',
        fontWeight: '600',
        borderRadius: '0',
        focusRing: { width: '2px', style: 'solid', color: '#17616E', offset: '-3px', shadow: 'none' },
        first: { topBorderRadius: '0' },
        last: { bottomBorderRadius: '0', activeBottomBorderRadius: '0' },
      },
      content: { padding: '6px 12px 16px 24px' },
      colorScheme: {
        light: {
          header: {
            background: '#FCFAF5',
            hoverBackground: '#F4F0E7',
            activeBackground: '#FCFAF5',
            activeHoverBackground: '#FCFAF5',
            color: '#1E2A2F',
            hoverColor: '#1E2A2F',
            activeColor: '#1E2A2F',
            activeHoverColor: '#1E2A2F',
          },
          content: { background: '#FCFAF5', color: '#1E2A2F' },
        },
      },
    },
    tree: {
      root: { background: 'transparent', padding: '0', gap: '0', indent: '12px' },
      node: {
        padding: '0 2px',
        borderRadius: '0',
        gap: '2px',
        selectedBackground: '#17616E29',
        selectedColor: '#1E2A2F',
        focusRing: { width: '2px', style: 'solid', color: '#17616E', offset: '-2px', shadow: 'none' },
      },
      nodeToggleButton: { size: '24px', borderRadius: '3px' },
    },
    datatable: {
      headerCell: { sm: { padding: '3px 6px 3px 0' }, borderColor: '#D9D1C1' },
      bodyCell: { sm: { padding: '3px 6px 3px 0' }, borderColor: '#D9D1C1' },
      columnTitle: { fontWeight: '400' },
      sortIcon: { size: '11px' },
      row: { background: 'transparent' },
      colorScheme: {
        light: {
          root: { borderColor: '#D9D1C1' },
          headerCell: {
            background: 'transparent',
            color: '#56636A',
            selectedBackground: 'transparent',
            selectedColor: '#1E2A2F',
            hoverBackground: 'transparent',
            hoverColor: '#1E2A2F',
          },
          row: { color: '#1E2A2F' },
        },
      },
    },
    dialog: {
      root: {
        background: '#FCFAF5',
        borderColor: '#1E2A2F',
        color: '#1E2A2F',
        borderRadius: '3px',
        shadow: 'none',
      },
      header: { padding: '14px 18px 8px', gap: '18px' },
      title: { fontSize: '15px', fontWeight: '600' },
      content: { padding: '0 18px 14px' },
      footer: { padding: '0 18px 16px', gap: '10px' },
    },
    toast: {
      root: { width: 'min(560px, calc(100vw - 40px))', borderRadius: '3px', borderWidth: '1px 1px 1px 4px' },
      content: { padding: '8px 10px 8px 12px', gap: '12px' },
      text: { gap: '0' },
      detail: { fontSize: '13px' },
      closeButton: { width: '24px', height: '24px', borderRadius: '3px' },
      colorScheme: {
        light: {
          root: { blur: '0' },
          info: {
            background: '#FCFAF5',
            borderColor: '#41703F',
            color: '#1E2A2F',
            detailColor: '#1E2A2F',
            shadow: 'none',
            closeButton: { hoverBackground: '#F4F0E7' },
          },
          error: {
            background: '#FCFAF5',
            borderColor: '#C8412B',
            color: '#1E2A2F',
            detailColor: '#1E2A2F',
            shadow: 'none',
            closeButton: { hoverBackground: '#F4F0E7' },
          },
        },
      },
    },
    splitter: {
      gutter: { background: '#D9D1C1' },
      handle: { background: 'transparent', size: '24px' },
      colorScheme: { light: { root: { background: 'transparent' } } },
    },
    progressbar: {
      root: { height: '5px', borderRadius: '0', background: '#D9D1C1' },
      value: { background: '#17616E' },
    },
  },
});
