export { gradeWords, gradeIndex, type Grade } from './grade.ts';
export {
  benchEventSchema,
  currentGrades,
  gradeEventSchema,
  lastGrade,
  type BenchEvent,
  type CurrentGrade,
  type CutEvent,
  type GradeEvent,
} from './events.ts';
