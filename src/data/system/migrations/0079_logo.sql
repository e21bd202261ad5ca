ALTER TABLE "slate"."workspace" ADD COLUMN "logo_id" uuid;--> statement-breakpoint
ALTER TABLE "slate"."workspace" ADD COLUMN "logo" "bytea";
--> statement-breakpoint
-- The sign of the organisation, or none; everybody sees it, administrators change it.
CREATE FUNCTION slate.put_logo(of_id uuid, drawn bytea) RETURNS void LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  PERFORM slate.only_administrators();
  UPDATE workspace SET logo_id = of_id, logo = drawn;
END $$;
--> statement-breakpoint
DROP TRIGGER trail_workspace ON slate.workspace;
--> statement-breakpoint
CREATE TRIGGER trail_workspace AFTER UPDATE ON slate.workspace FOR EACH ROW EXECUTE FUNCTION slate.note_trail('workspace', 'name,zone,currency,formats,workdays,opens,closes,holidays_of,closed,logo_id!');
