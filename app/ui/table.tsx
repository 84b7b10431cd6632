import { styled } from 'styled-components';
import { color, shape, space, type } from './theme';

/** A ruled table of the drawing sheet: figures right, first column bold, scrolls sideways in its own box. */
export const TableScroll = styled.div.attrs({ tabIndex: 0, role: 'group' })`
  overflow-x: auto;
  max-width: 100%;
  @media print {
    overflow: visible;
  }
`;
export const Table = styled.table`
  border-collapse: collapse;
  width: 100%;
  font-size: ${type.body};
  th,
  td {
    padding: ${space[1]} ${space[3]} ${space[1]} 0;
    text-align: left;
    vertical-align: baseline;
    border-bottom: ${shape.hair} solid ${color.rule};
  }
  thead th {
    color: ${color.soft};
    font-size: ${type.small};
    font-weight: 400;
    white-space: nowrap;
  }
  tbody th {
    font-weight: 700;
  }
  /* One line a row: names are cut with dots, and whole on hover. */
  &[data-dense='true'] tr > * {
    height: 28px;
    padding-block: 0;
    vertical-align: middle;
  }
  .name {
    max-width: 0;
    width: 34%;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  @media print {
    .name {
      max-width: none;
      white-space: normal;
    }
  }
  .figure {
    text-align: right;
    white-space: nowrap;
  }
  .wire {
    white-space: nowrap;
    font-family: ${type.mono};
  }
  tr[data-selected='true'] > * {
    background: ${color.selectionWash};
  }
  tr[data-pressable='true'] {
    cursor: pointer;
  }
  tr[data-pressable='true']:hover > * {
    background: ${color.raised};
  }
  @media print {
    tr {
      break-inside: avoid;
    }
  }
`;
