export { gradeWords, gradeIndex, isGrade, type Grade } from './grade.ts';
export { currentGrades, gradeEventSchema, lastGrade, type CurrentGrade, type GradeEvent } from './events.ts';
