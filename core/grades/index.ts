export { gradeWords, gradeIndex, type Grade } from './grade.ts';
export {
  benchEventSchema,
  currentGrades,
  details,
  differences,
  gradesAmong,
  lastGrade,
  type BenchEvent,
  type Detail,
  type GradeEvent,
  type WeedEvent,
} from './events.ts';
