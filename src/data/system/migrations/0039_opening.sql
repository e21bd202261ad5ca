ALTER TABLE "slate"."form" ADD COLUMN "opening" jsonb;--> statement-breakpoint
-- How many were sent by a form, seen or not by whoever asks.
CREATE FUNCTION slate.sent_of(of_form uuid) RETURNS integer LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  RETURN (SELECT count(*)::int FROM submission WHERE form_id = of_form AND sent_at IS NOT NULL AND of_record IS NULL);
END $$;
