ALTER TABLE "slate"."form_release" ADD COLUMN "note" text DEFAULT '' NOT NULL;--> statement-breakpoint
-- How much of a form is on its way, to those who design it: drafts themselves are their senders' alone.
CREATE FUNCTION slate.under_way(of_form uuid) RETURNS TABLE (drafts integer, sent integer) LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = slate, pg_temp AS $$
BEGIN
  RETURN QUERY SELECT count(*) FILTER (WHERE s.state = 'draft')::int, count(*) FILTER (WHERE s.state IN ('waiting', 'sent-back'))::int
    FROM submission s WHERE s.form_id = of_form AND s.state IN ('draft', 'waiting', 'sent-back') AND (slate.may_form(of_form, 'design') OR slate.owns_form(of_form) OR slate.administers());
END $$;
