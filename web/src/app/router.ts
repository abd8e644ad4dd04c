import type { Role } from '@rounds/contract/route';
import { createRouter, createWebHistory } from 'vue-router';
import { useSession } from '../device/session';

declare module 'vue-router' {
  interface RouteMeta {
    title: string;
    /** Roles that may open the screen; everybody signed in when absent. */
    roles?: readonly Role[];
    open?: boolean;
    /** Fills the window without the shell. */
    bare?: boolean;
  }
}

const office: readonly Role[] = ['trainer', 'supervisor', 'administrator'];
const trainers: readonly Role[] = ['trainer', 'administrator'];

/** Every screen; each area is a chunk of its own. */
export const router = createRouter({
  history: createWebHistory(),
  routes: [
    {
      path: '/',
      name: 'today',
      component: () => import('../today/TodayScreen.vue'),
      meta: { title: 'Today' },
    },
    {
      path: '/people',
      name: 'people',
      component: () => import('../people/RosterScreen.vue'),
      meta: { title: 'People', roles: office },
    },
    {
      path: '/people/import',
      name: 'import',
      component: () => import('../people/ImportScreen.vue'),
      meta: { title: 'Import people', roles: trainers },
    },
    {
      path: '/people/matrix',
      name: 'matrix',
      component: () => import('../people/MatrixScreen.vue'),
      meta: { title: 'Standing matrix', roles: office },
    },
    {
      path: '/people/:id',
      name: 'person',
      component: () => import('../people/PersonScreen.vue'),
      meta: { title: 'Person', roles: ['trainer', 'supervisor', 'administrator', 'operator'] },
    },
    {
      path: '/classes',
      name: 'classes',
      component: () => import('../classes/ClassListScreen.vue'),
      meta: { title: 'Classes' },
    },
    {
      path: '/classes/compare',
      name: 'compare',
      component: () => import('../classes/CompareScreen.vue'),
      meta: { title: 'Compare two classes' },
    },
    {
      path: '/classes/drawings',
      name: 'drawings',
      component: () => import('../classes/DrawingsScreen.vue'),
      meta: { title: 'Drawings', roles: trainers },
    },
    {
      path: '/classes/import',
      name: 'import-class',
      component: () => import('../classes/ImportPackScreen.vue'),
      meta: { title: 'Import a class', roles: trainers },
    },
    {
      path: '/classes/:id/edit',
      name: 'edit-class',
      component: () => import('../classes/EditScreen.vue'),
      meta: { title: 'Edit a class', roles: trainers },
    },
    {
      path: '/classes/:id/history',
      name: 'class-history',
      component: () => import('../classes/HistoryScreen.vue'),
      meta: { title: 'Revisions of a class', roles: office },
    },
    {
      path: '/classes/:id',
      name: 'class',
      component: () => import('../classes/ClassScreen.vue'),
      meta: { title: 'Machine class' },
    },
    {
      path: '/assess',
      name: 'assess',
      component: () => import('../assess/AssessListScreen.vue'),
      meta: { title: 'Assess', roles: ['trainer', 'supervisor', 'administrator', 'operator'] },
    },
    {
      path: '/assess/new',
      name: 'prepare',
      component: () => import('../assess/PrepareScreen.vue'),
      meta: { title: 'Prepare an evaluation', roles: trainers },
    },
    {
      path: '/assess/practice',
      name: 'prepare-practice',
      component: () => import('../assess/PrepareScreen.vue'),
      meta: { title: 'Practise start and stop', roles: trainers },
      props: { purpose: 'practice' },
    },
    {
      path: '/assess/calibration',
      name: 'calibrations',
      component: () => import('../calibration/CalibrationsScreen.vue'),
      meta: { title: 'Calibration', roles: trainers },
    },
    {
      path: '/assess/calibration/:id',
      name: 'replay',
      component: () => import('../calibration/ReplayScreen.vue'),
      meta: { title: 'Replayed round', roles: trainers, bare: true },
    },
    {
      path: '/assess/calibration/:id/report',
      name: 'calibration-report',
      component: () => import('../calibration/CalibrationReportScreen.vue'),
      meta: { title: 'What the calibration showed', roles: trainers },
    },
    {
      path: '/assess/:id',
      name: 'evaluation',
      component: () => import('../assess/EvaluationScreen.vue'),
      meta: {
        title: 'Evaluation',
        roles: ['trainer', 'supervisor', 'administrator', 'operator'],
        bare: true,
      },
    },
    {
      path: '/teach',
      name: 'teach',
      component: () => import('../teach/TeachScreen.vue'),
      meta: { title: 'Teach', roles: trainers },
    },
    {
      path: '/teach/exercise',
      name: 'exercise',
      component: () => import('../exercise/PrepareExercise.vue'),
      meta: { title: 'Class exercise', roles: trainers },
    },
    {
      path: '/teach/exercise/:id',
      name: 'exercise-room',
      component: () => import('../exercise/LeadScreen.vue'),
      meta: { title: 'Class exercise', roles: trainers, bare: true },
    },
    {
      path: '/teach/exercise/:id/screen',
      name: 'exercise-screen',
      component: () => import('../exercise/WallScreen.vue'),
      meta: { title: 'Class exercise, big screen', roles: trainers, bare: true },
    },
    {
      path: '/teach/exercise/:id/report',
      name: 'exercise-report',
      component: () => import('../exercise/ReportScreen.vue'),
      meta: { title: 'What the room showed', roles: trainers },
    },
    {
      path: '/join/:code?',
      name: 'join',
      component: () => import('../exercise/JoinScreen.vue'),
      meta: { title: 'Join a class exercise', open: true, bare: true },
    },
    {
      path: '/room/:id',
      name: 'room',
      component: () => import('../exercise/PhoneScreen.vue'),
      meta: { title: 'Class exercise', open: true, bare: true },
    },
    {
      path: '/teach/:id',
      name: 'lesson',
      component: () => import('../teach/PresenterScreen.vue'),
      meta: { title: 'Lesson', roles: trainers, bare: true },
    },
    {
      path: '/teach/:id/screen',
      name: 'lesson-screen',
      component: () => import('../teach/RoomScreen.vue'),
      meta: { title: 'Lesson, big screen', open: true, bare: true },
    },
    {
      path: '/screen',
      name: 'screen',
      component: () => import('../teach/RoomScreen.vue'),
      meta: { title: 'Big screen', open: true, bare: true },
    },
    {
      path: '/practise',
      name: 'practise',
      component: () => import('../practice/PracticeScreen.vue'),
      meta: { title: 'Practise', roles: ['trainer', 'supervisor', 'administrator', 'operator'] },
    },
    {
      path: '/practise/offline/:id',
      name: 'offline-drill',
      component: () => import('../practice/DrillScreen.vue'),
      meta: { title: 'Walk-round drill', roles: ['trainer', 'administrator', 'operator'], bare: true },
    },
    {
      path: '/practise/offline/:id/result',
      name: 'offline-result',
      component: () => import('../practice/DrillResultScreen.vue'),
      meta: { title: 'What the drill says', roles: ['trainer', 'administrator', 'operator'] },
    },
    {
      path: '/practise/bench/:id',
      name: 'bench',
      component: () => import('../practice/BenchScreen.vue'),
      meta: { title: 'Grading bench', roles: ['trainer', 'administrator', 'operator'], bare: true },
    },
    {
      path: '/practise/bench/:id/result',
      name: 'bench-result',
      component: () => import('../practice/BenchResultScreen.vue'),
      meta: { title: 'What the bench says', roles: ['trainer', 'supervisor', 'administrator', 'operator'] },
    },
    {
      path: '/practise/desk/:id',
      name: 'desk',
      component: () => import('../desk/DeskScreen.vue'),
      meta: { title: 'Desk', roles: ['trainer', 'administrator', 'operator'], bare: true },
    },
    {
      path: '/practise/desk/:id/result',
      name: 'desk-result',
      component: () => import('../desk/DeskResultScreen.vue'),
      meta: { title: 'What the desk says', roles: ['trainer', 'supervisor', 'administrator', 'operator'] },
    },
    {
      path: '/practise/commands/:id',
      name: 'commands',
      component: () => import('../commands/CommandScreen.vue'),
      meta: { title: 'Commands', roles: ['trainer', 'administrator', 'operator'], bare: true },
    },
    {
      path: '/practise/commands/:id/result',
      name: 'commands-result',
      component: () => import('../commands/CommandResultScreen.vue'),
      meta: {
        title: 'What the commands came to',
        roles: ['trainer', 'supervisor', 'administrator', 'operator'],
      },
    },
    {
      path: '/practise/:id',
      name: 'drill',
      component: () => import('../practice/DrillScreen.vue'),
      meta: { title: 'Walk-round drill', roles: ['trainer', 'administrator', 'operator'], bare: true },
    },
    {
      path: '/practise/:id/result',
      name: 'drill-result',
      component: () => import('../practice/DrillResultScreen.vue'),
      meta: { title: 'What the drill says', roles: ['trainer', 'supervisor', 'administrator', 'operator'] },
    },
    {
      path: '/insight',
      name: 'insight',
      component: () => import('../insight/InsightScreen.vue'),
      meta: { title: 'Insight', roles: office },
    },
    {
      path: '/insight/items',
      name: 'items',
      component: () => import('../insight/ItemsScreen.vue'),
      meta: { title: 'Keys under scrutiny', roles: trainers },
    },
    {
      path: '/settings',
      name: 'settings',
      component: () => import('../settings/SettingsScreen.vue'),
      meta: { title: 'Settings' },
    },
    {
      path: '/verify/:token',
      name: 'verify',
      component: () => import('../verify/VerifyScreen.vue'),
      meta: { title: 'Card check', open: true, bare: true },
    },
    {
      path: '/:rest(.*)*',
      name: 'lost',
      component: () => import('./LostScreen.vue'),
      meta: { title: 'Nothing here' },
    },
  ],
  scrollBehavior: (_to, _from, saved) => saved ?? { top: 0 },
});

router.afterEach((to) => {
  const organisation = useSession().installation?.organisation;
  document.title = [to.meta.title, organisation ?? 'Rounds'].join(' · ');
});
