import { index, route, type RouteConfig } from '@react-router/dev/routes';

export default [
  index('routes/garage.tsx'),
  route('new', 'routes/new.tsx'),
  route('library', 'routes/library.tsx'),
  route('demo/:demoId', 'routes/demo.ts'),
  route('build/:buildId', 'routes/build.tsx', [
    index('routes/build-index.tsx'),
    route('survey', 'routes/survey.tsx'),
    route('survey/identify', 'routes/survey-identify.tsx'),
    route('survey/donor', 'routes/survey-donor.tsx'),
    route('survey/body', 'routes/survey-body.tsx'),
    route('survey/sensing', 'routes/survey-sensing.tsx'),
    route('survey/fuel', 'routes/survey-fuel.tsx'),
    route('survey/notes', 'routes/survey-notes.tsx'),
    route('allot', 'routes/allot.tsx'),
    route('trigger', 'routes/trigger.tsx'),
    route('feeds', 'routes/feeds.tsx'),
    route('loom', 'routes/loom.tsx'),
    route('prove', 'routes/prove.tsx'),
    route('fire-up', 'routes/fire-up.tsx'),
    route('trace', 'routes/trace.tsx'),
    route('book', 'routes/book.tsx'),
  ]),
  route('*', 'routes/missing.tsx'),
] satisfies RouteConfig;
