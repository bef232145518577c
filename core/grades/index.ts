export { gradeWords, gradeIndex, type Grade } from './grade.ts';
export {
  benchEventSchema,
  currentGrades,
  differences,
  gradeEventSchema,
  lastGrade,
  type BenchEvent,
  type CurrentGrade,
  type CutEvent,
  type Difference,
  type GradeEvent,
} from './events.ts';
