ALTER TABLE "slate"."source" ADD COLUMN "failures" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "slate"."source" ADD COLUMN "silent_until" timestamp with time zone;--> statement-breakpoint
-- Every process writes down whether a source answered. After three silences in a row nobody waits for it for half a minute, then a minute, and so on
-- up to ten; then somebody tries again, and one answer ends it. Pages of its tables are told.
CREATE FUNCTION slate.note_source(of_source uuid, answered boolean) RETURNS void LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
DECLARE was integer; known uuid;
BEGIN
  SELECT failures INTO was FROM source WHERE id = of_source FOR UPDATE;
  IF was IS NULL OR (answered AND was = 0) THEN RETURN; END IF;
  UPDATE source SET failures = CASE WHEN answered THEN 0 ELSE was + 1 END,
    silent_until = CASE WHEN answered OR was < 2 THEN NULL ELSE now() + least(interval '10 minutes', interval '30 seconds' * 2 ^ least(was - 2, 6)) END
  WHERE id = of_source;
  FOR known IN SELECT table_id FROM link WHERE source_id = of_source LOOP PERFORM tell('table:' || known); END LOOP;
END $$;
