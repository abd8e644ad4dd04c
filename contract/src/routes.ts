import { accountRoutes } from './accounts';
import { assessRoutes } from './assess';
import { benchRoutes } from './bench';
import { calibrationRoutes } from './calibration';
import { certificationRoutes } from './certification';
import { changeRoutes } from './changes';
import { classRoutes } from './classes';
import { commandRoutes } from './commands';
import { deskRoutes } from './desk';
import { exerciseRoutes } from './exercise';
import { gradingRoutes } from './grading';
import { insightRoutes } from './insight';
import { jobRoutes } from './jobs';
import { ladderRoutes } from './ladder';
import { machineRoutes } from './machines';
import { peopleRoutes } from './people';
import { practiceRoutes } from './practice';
import { teachRoutes } from './teach';
import { todayRoutes } from './today';

/**
 * Every route of the application, an area a file. The server binds them by name; OpenAPI is made from them.
 */
export const routes = {
  ...accountRoutes,
  ...certificationRoutes,
  ...peopleRoutes,
  ...ladderRoutes,
  ...machineRoutes,
  ...classRoutes,
  ...gradingRoutes,
  ...assessRoutes,
  ...practiceRoutes,
  ...benchRoutes,
  ...deskRoutes,
  ...commandRoutes,
  ...exerciseRoutes,
  ...calibrationRoutes,
  ...insightRoutes,
  ...teachRoutes,
  ...todayRoutes,
  ...changeRoutes,
  ...jobRoutes,
};
