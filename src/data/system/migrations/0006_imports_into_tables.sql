ALTER TABLE "slate"."table_import" DROP CONSTRAINT "table_import_state";--> statement-breakpoint
ALTER TABLE "slate"."table_import" ADD COLUMN "trial" jsonb;--> statement-breakpoint
ALTER TABLE "slate"."table_import" ADD COLUMN "refused_rows" jsonb;--> statement-breakpoint
ALTER TABLE "slate"."table_import" ADD CONSTRAINT "table_import_state" CHECK ("slate"."table_import"."state" IN ('uploading', 'reading', 'proposed', 'trying', 'keeping', 'kept', 'refused', 'failed', 'cancelled'));--> statement-breakpoint
CREATE OR REPLACE FUNCTION slate.ask_import_job(task text, of_import uuid) RETURNS void LANGUAGE plpgsql SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  IF task NOT IN ('read-import', 'try-import', 'keep-import') THEN RAISE EXCEPTION 'no such job: %', task; END IF;
  IF NOT EXISTS (SELECT 1 FROM table_import WHERE id = of_import AND (person_id = asking() OR session_user = current_user)) THEN RAISE EXCEPTION 'not their import'; END IF;
  PERFORM graphile_worker.add_job(task, json_build_object('import', of_import), job_key := task || ':' || of_import, max_attempts := 3);
END $$;
