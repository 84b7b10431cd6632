import type { LanguageWords } from './language';

/** English needs no turning; its list-holding words stand here beside those of the others. */
export const english: LanguageWords = {
  terms: [],
  fillers: '',
  empty:
    'n[./]?\\s?c\\.?|n[./]?a\\.?|not (?:used|connected|fitted|assigned)|(?:is )?unused|unassigned|no connect(?:ion)?|reserved|do not connect|blank|empty|plugged|spare|free|open|none|nil|x',
  plug: 'connector|plug|conn\\.?|header|socket',
  pin: 'pins?|cav(?:ity|ities)?\\.?|pos(?:ition)?\\.?|terminal|way|contact|no\\.?|nr\\.?',
  of: 'of|on|in|at',
  to: 'to|through|thru',
  and: 'and',
  is: 'is|are|drives|feeds|takes|gets|carries|goes to|connects to|=',
  heads: {
    connector: 'connector|conn|plug|header|socket',
    cavity: 'pins?|cavity|cav|pos(?:ition)?|terminal|way|contact|no|nr|number|#',
    label: 'label|name|signal|short|designation|id',
    text: 'function|description|use|purpose|type|notes?|remarks?|comment|spec|rating|detail|current|load|limit|abilit\\w*|main|first|default|max|direction',
    other: 'alternat\\w*|second(?:ary)?|or|also|shared?',
    lead: '(?:wire|lead|cable)?\\s*colou?r|wire|lead',
  },
};
