-- Methods of pressing layers: the top layer's own press as the last one. "ten" is no method any more; what was pressed so stays on record.
alter table press_outcome drop constraint press_outcome_school_check;
alter table press_outcome add constraint press_outcome_school_check check (school in ('tack', 'top', 'full', 'ten'));
