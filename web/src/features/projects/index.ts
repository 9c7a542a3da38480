export { ProjectsPage } from './page'
