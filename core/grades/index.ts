export { gradeWords, gradeIndex, type Grade } from './grade.ts';
export {
  benchEventSchema,
  currentGrades,
  details,
  differences,
  gradesAmong,
  gradeEventSchema,
  lastGrade,
  type BenchEvent,
  type CurrentGrade,
  type CutEvent,
  type Detail,
  type Difference,
  type GradeEvent,
  type WeedEvent,
} from './events.ts';
