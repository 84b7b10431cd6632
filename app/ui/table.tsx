import { styled } from 'styled-components';
import { at, color, shape, space, type } from './theme';

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
  ${at.tablet} {
    font-size: ${type.small};
    th,
    td {
      padding-right: ${space[2]};
    }
  }
  /* What a tablet has no room for; a phone, which stacks its rows, has. */
  @media (min-width: 700px) and (max-width: 1099px) {
    [data-roomy] {
      display: none;
    }
  }
  ${at.phone} {
    font-size: ${type.body};
  }
  thead th {
    color: ${color.soft};
    font-size: ${type.small};
    font-weight: 400;
    white-space: nowrap;
  }
  &[data-wrapped] thead th {
    white-space: normal;
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
  /* On a phone a row is a few lines, each figure with its name before it: nothing is cut, nothing scrolls sideways. */
  &[data-stacked='true'] {
    ${at.phone} {
      &,
      tbody {
        display: block;
      }
      thead {
        position: absolute;
        clip-path: inset(50%);
        width: 1px;
        height: 1px;
        overflow: hidden;
      }
      tr {
        display: flex;
        flex-wrap: wrap;
        align-items: baseline;
        gap: 2px ${space[4]};
        padding: ${space[2]} 0;
        border-bottom: ${shape.hair} solid ${color.rule};
      }
      tr > * {
        height: auto;
        padding: 0;
        border: 0;
        width: auto;
        max-width: 100%;
        text-align: left;
        white-space: normal;
      }
      tr > [data-label]:empty {
        display: none;
      }
      tr[data-selected='true'] {
        background: ${color.selectionWash};
        & > * {
          background: none;
        }
      }
      tr > th:not([data-inline]),
      tr > [colspan] {
        flex: 1 1 100%;
      }
      tr > .name {
        flex: 1 1 38%;
        max-width: none;
      }
      tr > [data-label]::before {
        content: attr(data-label) ' ';
        color: ${color.soft};
        font-size: ${type.small};
        font-weight: 400;
      }
    }
  }
`;
