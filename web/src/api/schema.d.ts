// Made by `make types`.
export interface paths {
  '/api/archive': {
    /** Bring in an archive: what is here stays as it is, what is the same is passed over, the rest is put beside it. */
    post: operations['bring_in_archive']
  }
  '/api/archive/out': {
    /** Everything that is kept as one zip, found as an export is. */
    post: operations['take_out_archive']
  }
  '/api/backups': {
    /** All backups, newest first. */
    get: operations['read_backups']
    /** Make one now; it is checked as it is made. */
    post: operations['make_backup']
  }
  '/api/backups/{name}/back': {
    /** Make everything as it was then; what is there now is kept as a backup of its own. */
    post: operations['back_to_then']
  }
  '/api/backups/{name}/changes': {
    /** What going back to a backup would change. */
    get: operations['read_changes']
  }
  '/api/backups/{name}/check': {
    /** Look through a backup: every table and index. */
    post: operations['check_backup']
  }
  '/api/bin/pens': {
    /** Pens in the bin. */
    get: operations['read_pen_bin']
  }
  '/api/bin/sheets': {
    /** The sheets in the bin with all their pages, newest first: the oldest page of each. */
    get: operations['read_binned_sheets']
  }
  '/api/cabinet': {
    /** Things by words, kind, date and use. */
    get: operations['find_things']
  }
  '/api/cabinet/bin': {
    /** What emptying the bin would let go of, and what would stay. */
    get: operations['look_into_bin']
    /** Let go of what lies in the bin, after a backup of what there was. */
    delete: operations['empty_the_bin']
  }
  '/api/cabinet/kinds': {
    /** The kinds of things there are. */
    get: operations['read_kinds']
  }
  '/api/cabinet/picture.png': {
    /** A thing as it looks: a pen's stroke, a hand's line, a word on a device's panel, a page in small. */
    get: operations['read_picture']
  }
  '/api/cabinet/space': {
    /** The room that is taken, and where. */
    get: operations['read_space']
  }
  '/api/cabinet/thing': {
    /** One thing, where it is used, and how it came to be. */
    get: operations['read_thing']
  }
  '/api/cabinet/thing/bin': {
    /** Put a thing into the bin or back. */
    put: operations['bin_kept_thing']
  }
  '/api/cabinet/thing/copy': {
    /** Another of the same. */
    post: operations['copy_kept_thing']
  }
  '/api/cabinet/thing/file': {
    /** A thing with all it needs as an archive of open files. */
    get: operations['take_out_thing']
  }
  '/api/cabinet/thing/name': {
    /** Call a thing otherwise. */
    put: operations['name_kept_thing']
  }
  '/api/cabinet/thing/note': {
    /** Write a note on a thing. */
    put: operations['note_kept_thing']
  }
  '/api/choosing/pair': {
    /** The two lines that teach most after these answers. */
    post: operations['show_pair']
  }
  '/api/choosing/preferred': {
    /** The pen liked best so far, how sure that is, and what one seems to go by. */
    post: operations['show_preferred']
  }
  '/api/csv/look': {
    /** What the columns of a table of strokes may mean; nothing is taken yet. */
    post: operations['look_at_table']
  }
  '/api/desk': {
    /** Everything the frame needs at start. */
    get: operations['read_desk']
    /** Remember which sheet lies on the desk and how the screen looks. */
    patch: operations['change_desk']
  }
  '/api/desk/colours': {
    /** Contrast of ink colours with a paper, and the ruling that suits it. */
    post: operations['read_colours']
  }
  '/api/desk/first': {
    /** What one may mostly write. */
    get: operations['first_choices']
    /** Put down a first sheet for this hand, device and use; its pens go on the roll. All can be changed later. */
    post: operations['first_desk']
  }
  '/api/desk/roll': {
    /** Put pens on the roll in this order. */
    put: operations['change_roll']
  }
  '/api/devices': {
    /** Keep a device of one's own, made from what its strokes show. */
    post: operations['keep_device']
  }
  '/api/devices/{device_id}': {
    /** Set what a kept device reports and shows. */
    put: operations['change_device']
  }
  '/api/exports/{job_id}': {
    /** What was taken out, and how it compares with the screen. */
    get: operations['read_export']
  }
  '/api/exports/{job_id}/file': {
    /** The file that was made. */
    get: operations['export_file']
  }
  '/api/figure': {
    /** The line, circle, ellipse, triangle or rectangle a way means; none where it means none. */
    post: operations['find_figure']
  }
  '/api/hands': {
    /** Keep a hand, new or changed. */
    post: operations['add_hand']
  }
  '/api/hands/line': {
    /** A line a simulated hand writes, kept or not, as a see-through picture. */
    post: operations['draw_hand_line']
  }
  '/api/hands/measure': {
    /** The hand that wrote on a sheet, each habit with its interval, and what still differs. */
    post: operations['measure']
  }
  '/api/hands/{hand_id}': {
    /** Set a kept hand's habits. */
    put: operations['change_hand']
  }
  '/api/jobs/{job_id}': {
    /** How far a long task is. */
    get: operations['job_state']
    /** Cancel a long task; it ends at its next step. */
    delete: operations['cancel_job']
  }
  '/api/jobs/{job_id}/events': {
    /** The states of a long task as server-sent events, until it ends. */
    get: operations['job_events']
  }
  '/api/lag': {
    /** How far a pen's ink trails on a device, which stage is to blame, what a change would buy, and other pens on every */
    post: operations['read_lag']
  }
  '/api/lag/feel': {
    /** What the turns so far tell, and the turn that comes next. */
    post: operations['read_feel']
  }
  '/api/lag/felt': {
    /** Keep what a hand feels: from then on verdicts go by it. */
    post: operations['keep']
  }
  '/api/lag/felt/{felt_id}/bin': {
    /** Put a kept threshold into the bin, or back; the one before it counts then. */
    put: operations['bin_kept']
  }
  '/api/lag/films': {
    /** Read a film of your own: a zip of PNG frames. */
    post: operations['read_own_film']
  }
  '/api/lag/films/marks': {
    /** The delay from nib and ink end marked by hand. */
    post: operations['read_hand_marks']
  }
  '/api/lag/films/simulated': {
    /** Film a simulated pen on a device in slow motion and read the film. */
    post: operations['film_pen']
  }
  '/api/lag/films/{job_id}': {
    /** What a film that was read came to. */
    get: operations['film_reading']
  }
  '/api/lag/films/{job_id}/frames': {
    /** The frames there are to step through, also of a film that could not be read. */
    get: operations['film_frames']
  }
  '/api/lag/films/{job_id}/frames/{number}': {
    /** One frame as a picture; the first is number 0. */
    get: operations['read_film_picture']
  }
  '/api/lag/inspect': {
    /** What the device behind some strokes reports, and what it leaves out. */
    post: operations['inspect_device']
  }
  '/api/lag/runs': {
    /** All kept runs, newest first. */
    get: operations['kept_lag_runs']
    /** Keep a run with everything it was made from, to lay it beside another later. */
    post: operations['keep_lag_run']
  }
  '/api/lag/runs/{run_id}/bin': {
    /** Put a kept run into the bin, or back. */
    put: operations['bin_lag_run']
  }
  '/api/lag/shown': {
    /** How late the ink's end was in frames that a browser has shown, without and with look-ahead, and how well the */
    post: operations['read_shown']
  }
  '/api/lag/swaps': {
    /** From one setting to another, one factor at a time: which of them is to blame. */
    post: operations['swap_settings']
  }
  '/api/lineup': {
    /** The criteria of a line-up and what counts for whom. */
    get: operations['read_lineup']
  }
  '/api/lineup/kept': {
    /** All kept line-ups, newest first. */
    get: operations['kept_lineups']
  }
  '/api/lineup/kept/{kept_id}/bin': {
    /** Put a kept line-up into the bin, or back. */
    put: operations['bin_lineup']
  }
  '/api/lineup/kept/{kept_id}/open': {
    /** Lay a kept line-up out as it was measured. */
    post: operations['open_lineup']
  }
  '/api/lineup/kept/{kept_id}/retest': {
    /** Measure a kept line-up again with today's revisions of its pens, on the same writing. */
    post: operations['retest_lineup']
  }
  '/api/lineup/runs': {
    /** Measure candidates, every criterion on every block. */
    post: operations['run_lineup']
  }
  '/api/lineup/runs/{job_id}': {
    /** What was measured; while more is, or in case it was cancelled, what was so far. */
    get: operations['read_lineup_run']
  }
  '/api/lineup/runs/{job_id}/front': {
    /** Two criteria against each other, and who is beaten in both by nobody. */
    get: operations['read_front']
  }
  '/api/lineup/runs/{job_id}/keep': {
    /** Keep what was measured, what counted and the verdict. */
    post: operations['keep_lineup']
  }
  '/api/lineup/runs/{job_id}/moved': {
    /** What moved since a line-up was kept, and what of that is noise. */
    get: operations['read_moved']
  }
  '/api/lineup/runs/{job_id}/ranking': {
    /** Rank what was measured by these weights, all together or by kind of pen. */
    post: operations['rank_lineup']
  }
  '/api/lineup/runs/{job_id}/report': {
    /** The line-up to hand on: pictures, numbers, settings, method, how sure it is, and a verdict. */
    post: operations['report_lineup']
  }
  '/api/mirror/clock': {
    /** The server's clock, by which delays between two screens are told. */
    get: operations['read_clock']
  }
  '/api/mirror/news': {
    /** What is written on the sheet that is shown, as it happens. */
    get: operations['mirror_news']
  }
  '/api/mirror/page': {
    /** The sheet that is shown. */
    get: operations['mirror_page']
  }
  '/api/mirror/page.png': {
    /** A part of the sheet that is shown, as it is settled. */
    get: operations['mirror_picture']
  }
  '/api/mirror/pens/{key}': {
    /** The plan of a pen that writes on the sheet that is shown. */
    get: operations['mirror_pen']
  }
  '/api/news': {
    /** Changes as server-sent events: {sheets: {id: [version, ink]}, pens: {id: [newest revision]}}, first all there */
    get: operations['tell_news']
  }
  '/api/pairs': {
    /** Everybody's pairs that are kept, newest first. */
    get: operations['read_judgings']
    /** Begin to judge pens blind. */
    post: operations['begin_pairs']
  }
  '/api/pairs/{judging_id}/answers': {
    /** Answer the pair, or take the last answer back; tells the next pair. */
    post: operations['answer_pair']
  }
  '/api/pairs/{judging_id}/bin': {
    /** Put a judge's pairs into the bin, or back. */
    put: operations['bin_pairs']
  }
  '/api/pairs/{judging_id}/file': {
    /** A judge's pairs as a file. */
    get: operations['take_out_pairs']
  }
  '/api/pairs/{judging_id}/others': {
    /** Bring in the file of another judge of the same pens on the same line. */
    post: operations['bring_in_pairs']
  }
  '/api/pairs/{judging_id}/pair': {
    /** The pair whose answer teaches most. */
    get: operations['read_pair']
  }
  '/api/pairs/{judging_id}/told': {
    /** What a judge's answers say: who is preferred, how sure, how far the judge can be relied on, and what he or she */
    post: operations['read_told']
  }
  '/api/palm': {
    /** The drills, the rules and the grades. */
    get: operations['palm_info']
  }
  '/api/palm/contacts': {
    /** Read a contact stream from CSV, on a screen of this size. */
    post: operations['contacts_in']
  }
  '/api/palm/contacts.csv': {
    /** The contact stream of a simulated drill as CSV. */
    get: operations['contacts_out']
    /** A recorded contact stream as CSV. */
    post: operations['own_contacts_out']
  }
  '/api/palm/judge': {
    /** Drills judged with some rules: every contact, what it did, and what came of it. */
    post: operations['judge_drills']
  }
  '/api/palm/posture': {
    /** The posture read off a line written with the hand down, corrected in words where the writer knows better. */
    post: operations['measure_posture']
  }
  '/api/palm/runs': {
    /** All kept runs, newest first. */
    get: operations['kept_palm_runs']
    /** Keep a run with its contacts, to lay it beside another later. */
    post: operations['keep_palm_run']
  }
  '/api/palm/runs/{run_id}/bin': {
    /** Put a kept run into the bin, or back. */
    put: operations['bin_palm_run']
  }
  '/api/palm/setting': {
    /** Rules and resting zone of a hand on a device, kept or as the hand's record says. */
    get: operations['palm_setting']
    /** Keep rules and posture for a hand on a device; the sheet follows them from then on. */
    put: operations['keep_palm_setting']
  }
  '/api/palm/sweeps': {
    /** Sweep every rule and search the joint settings that fit a hand on a device. */
    post: operations['sweep_rules']
  }
  '/api/palm/sweeps/{job_id}': {
    /** What a sweep came to. */
    get: operations['sweep_result']
  }
  '/api/palm/told': {
    /** Keep that a contact was a palm, or a finger: the next search of rules uses it. */
    post: operations['tell']
  }
  '/api/palm/told/{told_id}/bin': {
    /** Take back what was told of a contact, or tell it again. */
    put: operations['take_told_back']
  }
  '/api/palm/trees': {
    /** What tells the look of a hand, for the rules in the browser. */
    get: operations['palm_trees']
  }
  '/api/palm/why': {
    /** Why one contact was kept or refused, and what would have changed it. */
    post: operations['why_decided']
  }
  '/api/panels': {
    /** What a panel and its toning have to be set, in which rooms it stands, and what can be done on it in time. */
    get: operations['read_panel_ways']
  }
  '/api/panels/advice': {
    /** What to change so that more of the sheet is seen on a device, each change measured on it. */
    post: operations['read_panel_advice']
  }
  '/api/panels/difference': {
    /** Where two panels show a sheet differently. */
    post: operations['read_difference']
  }
  '/api/panels/exports': {
    /** The sheet as it is sent out, beside what its writer sees on a device. */
    post: operations['read_exports']
  }
  '/api/panels/film': {
    /** A part of the sheet on a panel while it is written, picture by picture. */
    post: operations['make_film']
  }
  '/api/panels/film-frames': {
    /** The same as a zip of PNG frames with the pen over them, which Lag reads too. */
    post: operations['save_film']
  }
  '/api/panels/fit': {
    /** The smallest change of a pen's width and tone with which none of its ink vanishes on these devices. */
    post: operations['fit_pen']
  }
  '/api/panels/own': {
    /** Keep a panel as a device of one's own, all else like another. */
    post: operations['make_own']
  }
  '/api/panels/own/{device_id}': {
    /** Change the panel of a device of one's own. */
    put: operations['change_own']
  }
  '/api/panels/proof': {
    /** The sheet as a device's panel shows it, pixel for pixel, and what becomes of its ink there. */
    post: operations['read_proof']
  }
  '/api/papers': {
    /** What a sheet of paper has to be set. */
    get: operations['read_paper_fields']
  }
  '/api/papers/own.png': {
    /** A paper of one's own as its tile shows it: its corner, or all of it where a picture is placed on it. */
    get: operations['read_own_paper']
  }
  '/api/pen/advice': {
    /** What to change about a pen on this ink, why, and what it will do. */
    post: operations['read_advice']
  }
  '/api/pen/dials': {
    /** A pen with a plain dial turned, and where every dial then stands. */
    post: operations['turn_dial']
  }
  '/api/pen/differences': {
    /** Readings of two pens on the same ink that differ, largest first. */
    post: operations['read_differences']
  }
  '/api/pen/effects': {
    /** How much each control of a group changes this ink, and why when it does not. */
    post: operations['read_effects']
  }
  '/api/pen/fit': {
    /** Fit floor, ceiling and curve to the force of the source's ink. */
    post: operations['fit_to_hand']
  }
  '/api/pen/fits': {
    /** Remember a fit for a hand on a device. */
    put: operations['remember_fit']
  }
  '/api/pen/fits/{hand_id}/{device_id}': {
    /** The fit remembered for a hand on a device, if any. */
    get: operations['read_fit']
  }
  '/api/pen/force': {
    /** How often the hand pressed how hard, for the press chart. */
    post: operations['read_force']
  }
  '/api/pen/heat': {
    /** The ink coloured by its width, force or speed. */
    post: operations['read_heat']
  }
  '/api/pen/judge': {
    /** Whether a pen does what its kind says, by numbers. */
    post: operations['judge']
  }
  '/api/pen/ladder': {
    /** One pen at rising widths, opacities or ranges over an older dark line. */
    post: operations['read_ladder']
  }
  '/api/pen/plan': {
    /** Compile a recipe into the tables live ink draws from; heights of a surface that ships are had by its name. */
    post: operations['make_plan']
  }
  '/api/pen/preview': {
    /** A picture of the source's ink drawn with a recipe, fitted into width_px x height_px. */
    post: operations['make_preview']
  }
  '/api/pen/readings': {
    /** Readings of a recipe on the source's ink, and where on the page they can be seen. */
    post: operations['read_with']
  }
  '/api/pen/shading': {
    /** A pen on the shading bench: hatched patches, grades, small writing and what exports keep, for the sheet's hand */
    post: operations['shade']
  }
  '/api/pen/solve': {
    /** The calmest setting under a drag, or the one with least drag that leaves no more of a shake. */
    post: operations['solve']
  }
  '/api/pen/spot': {
    /** What the hand did at a spot of the ink, and the terms that made its width. */
    post: operations['read_spot']
  }
  '/api/pen/steady': {
    /** Amount and physical parameter of a steadying method, from either. */
    get: operations['convert_steady']
  }
  '/api/pen/surfaces/{name}': {
    /** The heights 0..255 of a surface that ships, row by row. */
    get: operations['read_surface']
  }
  '/api/pen/trade': {
    /** Shake left against drag for every method and amount, and the setting in use. */
    post: operations['trade']
  }
  '/api/pens': {
    /** Keep a new pen. */
    post: operations['new_pen']
  }
  '/api/pens/files': {
    /** Keep a pen from a pen JSON file. */
    post: operations['bring_in_pen']
  }
  '/api/pens/forms': {
    /** Forms that others can take over. */
    get: operations['read_forms']
  }
  '/api/pens/grains': {
    /** A picture of a surface as a grain for a pen. */
    post: operations['make_grain']
  }
  '/api/pens/shared': {
    /** Keep a shared pen with all its revisions, and fitted to one's own force as one more. */
    post: operations['keep_shared_pen']
  }
  '/api/pens/shared/look': {
    /** A shared pen on one's own hand beside its owner's; nothing is kept. */
    post: operations['look_at_shared_pen']
  }
  '/api/pens/swatch.png': {
    /** A stroke a pen really draws with changes that are not kept. */
    post: operations['draw_swatch']
  }
  '/api/pens/{pen_id}/bin': {
    /** Move a pen to the bin or back. */
    put: operations['change_pen_bin']
  }
  '/api/pens/{pen_id}/revisions': {
    /** All revisions of a pen, newest first. */
    get: operations['read_pen_history']
    /** Keep a changed recipe as the pen's next revision. */
    post: operations['new_revision']
  }
  '/api/pens/{pen_id}/revisions/{revision}/card.pdf': {
    /** The setting card of a pen on a device. */
    get: operations['take_out_card']
  }
  '/api/pens/{pen_id}/revisions/{revision}/file': {
    /** A revision as a pen JSON file. */
    get: operations['take_out_pen']
  }
  '/api/pens/{pen_id}/revisions/{revision}/forms/{form}': {
    /** A pen in one of the forms. */
    get: operations['take_out_form']
    /** A pen with what a file in one of the forms tells; nothing is kept. */
    post: operations['bring_in_form']
  }
  '/api/pens/{pen_id}/revisions/{revision}/line.png': {
    /** A long straight line by this pen. */
    get: operations['read_line']
  }
  '/api/pens/{pen_id}/revisions/{revision}/swatch.png': {
    /** A stroke this pen really draws. */
    get: operations['read_swatch']
  }
  '/api/pens/{pen_id}/shared': {
    /** A pen with all revisions, and what is seen of it on the sheet's hand and device. */
    get: operations['share_pen']
  }
  '/api/pieces': {
    /** All pieces there are. */
    get: operations['read_pieces']
    /** Keep ink of a sheet as a piece, on small paper of its own; the sheet stays as it is. */
    post: operations['keep_piece']
  }
  '/api/room': {
    /** How another screen comes in, and which are. */
    get: operations['read_room']
  }
  '/api/room/key': {
    /** A new key: the old link lets nobody in any more; screens that are in stay in. */
    post: operations['renew_key']
  }
  '/api/room/screens/{browser_id}': {
    /** Sign a screen out: it needs the key from now on. */
    delete: operations['put_out']
  }
  '/api/screen/aim': {
    /** How far from the nib ink appears, and what would correct it. */
    post: operations['check_aim']
  }
  '/api/screen/looks': {
    /** What an eye sees of greys, lines, print or writing, and what to show it next. */
    post: operations['look_closer']
  }
  '/api/screen/matches': {
    /** The mean of several settings that looked the same, with its interval. */
    post: operations['match_settings']
  }
  '/api/screen/straightness': {
    /** How straight the digitiser is, told apart from the hand's tremor. */
    post: operations['check_straightness']
  }
  '/api/screen/word': {
    /** A word in writing of some x-height, for this screen's pixels. */
    post: operations['write_small']
  }
  '/api/sheets': {
    /** Put down a new sheet. */
    post: operations['new_sheet']
  }
  '/api/sheets/{sheet_id}': {
    /** A sheet, its prompts when it has some, the ids of its strokes and the colours of its ink. */
    get: operations['read_sheet']
    /** Change a sheet's name, note, hand, device or pen, its pages' paper, or a page's bookmark. */
    patch: operations['edit_sheet']
  }
  '/api/sheets/{sheet_id}/bin': {
    /** Move a sheet with all its pages to the bin or back. */
    put: operations['change_sheet_bin']
  }
  '/api/sheets/{sheet_id}/calmer': {
    /** How much more evenly these strokes stand on their line than the rest of the page's writing. */
    post: operations['read_calmer']
  }
  '/api/sheets/{sheet_id}/clear': {
    /** Rub out all ink of the page or of the layer that is written on; what is hidden or locked stays. */
    post: operations['clear_page']
  }
  '/api/sheets/{sheet_id}/covers': {
    /** Lay these covers on a page, in place of those that lie there. */
    put: operations['change_covers']
  }
  '/api/sheets/{sheet_id}/csv': {
    /** Put down a new sheet with the strokes of a table whose columns mean this. */
    post: operations['bring_in_csv']
  }
  '/api/sheets/{sheet_id}/cuts': {
    /** Where this page would be cut into pages of at most this height. */
    get: operations['read_cuts']
  }
  '/api/sheets/{sheet_id}/deposit.png': {
    /** What the ink of a part of the sheet left for a pen that goes over it: red how far the surface is filled, green */
    post: operations['read_deposit']
  }
  '/api/sheets/{sheet_id}/exports': {
    /** Take pages of a sheet out, compared with the screen where the file can be read back. */
    post: operations['export_pages']
  }
  '/api/sheets/{sheet_id}/file': {
    /** The sheet as a file: SVG, PNG, PDF or OpenRaster with or without its paper, or its traces as InkML. */
    get: operations['take_out_sheet']
    /** Put down a new sheet with the traces of an InkML file, on the paper and with the pen of the sheet named; pages, */
    post: operations['bring_in_sheet']
  }
  '/api/sheets/{sheet_id}/layers': {
    /** How much ink lies on each layer, and what a layer is set by. */
    get: operations['read_layers']
    /** Keep the sheet's layers in this order, and put ink on them; ink of a layer that goes lies on the one below. */
    put: operations['change_layers']
  }
  '/api/sheets/{sheet_id}/marks': {
    /** What is marked with washes on all pages of a sheet: passages and the notes that are in the same colour. */
    get: operations['read_marks']
  }
  '/api/sheets/{sheet_id}/on-paper': {
    /** Whether a ruling drowns the ink of the sheet's pen, and which spacing suits the letters that are written. */
    post: operations['read_on_a_paper']
  }
  '/api/sheets/{sheet_id}/openraster': {
    /** Put down a new sheet of an OpenRaster picture's size, its layers as pictures under the ink. */
    post: operations['bring_in_openraster']
  }
  '/api/sheets/{sheet_id}/originals': {
    /** Bring in a PNG or JPEG picture or a PDF document, to lie under the ink. */
    post: operations['bring_in_original']
  }
  '/api/sheets/{sheet_id}/page.png': {
    /** Paper and settled ink of a part of the sheet, snapped outward to whole pixels. */
    get: operations['read_page']
  }
  '/api/sheets/{sheet_id}/page/bin': {
    /** Move one page to the bin, or back to its place. */
    put: operations['change_page_bin']
  }
  '/api/sheets/{sheet_id}/page/turn': {
    /** Turn a page a quarter clockwise, with its ink. */
    post: operations['turn_a_page']
  }
  '/api/sheets/{sheet_id}/pages': {
    /** The pages of the sheet that this is a page of, in their order. */
    get: operations['read_pages']
    /** Put the pages of a sheet in this order. */
    put: operations['put_pages_in_order']
    /** Put a page down after this one. */
    post: operations['new_page']
  }
  '/api/sheets/{sheet_id}/pieces': {
    /** Draw a piece of the starting set on a sheet, with its pen. */
    post: operations['put_starter']
  }
  '/api/sheets/{sheet_id}/prints': {
    /** What of a print can be set, the files that lie on this page, and what washes leave of their text. */
    get: operations['read_prints']
    /** Lay these prints on a page, in place of those that lie there. */
    put: operations['change_prints']
  }
  '/api/sheets/{sheet_id}/prints/laid': {
    /** Lay a print on its page anew: all of it, filling the page, as large as it came, or turned by a quarter. */
    post: operations['lay_print_anew']
  }
  '/api/sheets/{sheet_id}/prints/links': {
    /** Where the links of this page's documents lead, and what outline they have; nothing is opened. */
    get: operations['read_printed_links']
  }
  '/api/sheets/{sheet_id}/readings': {
    /** Readings of the sheet's ink as it lies there, each stroke in the pen that drew it. */
    get: operations['read_sheet_ink']
    /** The same of chosen strokes; those in the bin are left out. */
    post: operations['read_chosen_ink']
  }
  '/api/sheets/{sheet_id}/replay': {
    /** When each stroke of a page comes about, and where. */
    get: operations['read_replay']
  }
  '/api/sheets/{sheet_id}/replay.png': {
    /** A part of the page as it was at a moment of its replay. */
    get: operations['read_moment']
  }
  '/api/sheets/{sheet_id}/replay/film': {
    /** The replay of a page as a file, found as an export is. */
    post: operations['take_out_replay']
  }
  '/api/sheets/{sheet_id}/rub': {
    /** Rub out along a way: whole strokes, those in a ring, or exactly what an eraser of this size goes over. */
    post: operations['rub_out']
  }
  '/api/sheets/{sheet_id}/steps': {
    /** What can be taken back on a sheet, and what made again. */
    get: operations['read_steps']
    /** Keep what can be taken back; refused where another window kept steps meanwhile. */
    put: operations['change_steps']
  }
  '/api/sheets/{sheet_id}/strokes': {
    /** Keep strokes; each is answered for itself, and a repeated save of the same ids changes nothing. */
    post: operations['keep_strokes']
  }
  '/api/sheets/{sheet_id}/strokes/arrange': {
    /** Lock, group or order strokes. */
    put: operations['arrange_ink']
  }
  '/api/sheets/{sheet_id}/strokes/bin': {
    /** Move strokes to the bin or back, for undo and redo. */
    put: operations['change_stroke_bin']
  }
  '/api/sheets/{sheet_id}/strokes/colour': {
    /** Ink strokes again, each in its own pen with another colour; pens themselves stay as they are. */
    put: operations['recolour_strokes']
  }
  '/api/sheets/{sheet_id}/strokes/file': {
    /** Some of a sheet's ink as a picture of its own size, see-through. */
    post: operations['take_out_ink']
  }
  '/api/sheets/{sheet_id}/strokes/fill': {
    /** Fill the inside of strokes, closed from their ends; it goes along when they are moved. */
    put: operations['fill_ink']
  }
  '/api/sheets/{sheet_id}/strokes/like': {
    /** The strokes of the same pens, colours or kinds of pen as these, or all of the sheet. */
    post: operations['find_strokes_like']
  }
  '/api/sheets/{sheet_id}/strokes/met': {
    /** The strokes a way across the page touches, crosses or rings, with all of their groups or words. */
    post: operations['find_strokes_met']
  }
  '/api/sheets/{sheet_id}/strokes/pens': {
    /** Ink strokes of the sheet again with other revisions of their pen or other pens; traces stay as they are. */
    put: operations['ink_strokes_again']
  }
  '/api/sheets/{sheet_id}/strokes/place': {
    /** Move, scale, turn, flip or copy ink, on this sheet or onto another. */
    post: operations['place_ink']
  }
  '/api/sheets/{sheet_id}/strokes/swap': {
    /** Move strokes to the bin and others out of it, for undo and redo. */
    put: operations['swap_ink']
  }
  '/api/sheets/{sheet_id}/strokes/{stroke_id}/figure': {
    /** The clean figure a stroke was made, with the corners that can be taken elsewhere. */
    get: operations['read_figure']
    /** Take a corner of a clean figure elsewhere; the others stay. */
    put: operations['change_corner']
    /** Make a stroke the clean figure it means, sized and turned; its trace stays. What means none stays as drawn. */
    post: operations['tidy_stroke']
  }
  '/api/sheets/{sheet_id}/strokes/{stroke_id}/scribble': {
    /** Where a stroke is a scribble over ink, both go; any other stroke stays, and nothing changes. */
    post: operations['scribble_out']
  }
  '/api/sheets/{sheet_id}/svg': {
    /** Put down a new sheet with the lines of an SVG as strokes of constant force. */
    post: operations['bring_in_svg']
  }
  '/api/sheets/{sheet_id}/write': {
    /** Let the sheet's simulated hand write text below what is there, or do its prompts. */
    post: operations['let_hand_write']
  }
  '/api/stage': {
    /** What is shown to others now. */
    get: operations['read_stage']
    /** Show a sheet to whoever has the link. */
    post: operations['show']
    /** Show nothing any more; the link is worth nothing from now on. */
    delete: operations['withdraw']
  }
  '/api/stage/lines': {
    /** What the nib did, to every mirror at once. Answers the server's clock. */
    post: operations['tell_stage']
  }
  '/api/wash/grid': {
    /** Your words and printed ones under passes of a wash on several papers, as pictures and numbers. */
    post: operations['make_grid']
  }
  '/api/wash/set': {
    /** Whether a set of washes can be told apart by everybody and on every panel, and colours that can. */
    post: operations['check_wash_set']
  }
  '/api/wash/solve': {
    /** A strength and blend that keep words readable after two passes and the wash clear on a paper, or why there is */
    post: operations['solve_for_paper']
  }
}
export type webhooks = Record<string, never>
export interface components {
  schemas: {
    /**
     * @description title; evidence: the reading in words; doing: what the button does; recipe: the pen after it, None when nothing
     *     in the pen helps or when there is only a trade; reading: which reading it moves; before, after: that reading now
     *     and as predicted; price: what else it changes; choices: the sides of a trade.
     */
    Advice: {
      after: number
      before: number
      choices: components['schemas']['Choice'][]
      doing: string
      evidence: string
      price: components['schemas']['Change'][]
      reading: string
      recipe: components['schemas']['Recipe'] | null
      title: string
    }
    AdviceReply: { advice: components['schemas']['Advice'][] }
    /** @description Look-ahead on one way of the hand, `on`. How late is told of what a hand wrote: a turn comes round again. */
    Ahead: { bare_ms: number | null; left_ms: number | null; on: string; overshoot_mm: number }
    /**
     * @description How far ahead of the tip ink is drawn, the time constant that calms the tip's velocity, and after how long
     *     without a report the pen has stopped.
     */
    AheadPlan: { ahead_ms: number; stale_ms: number; tau_ms: number }
    /** @description offsets: where each cross's ink lies off it, mm (n, 2), as measured. correction: None where nothing is sure. */
    Aim: {
      correction: components['schemas']['Correction'] | null
      leans: boolean | null
      left_mm: number
      mean_mm: number
      offsets: components['schemas']['Numbers2'][]
      scatter_mm: number
      taps: number
      words: string[]
    }
    /** @description Taps on crosses, in mm on the screen. */
    AimBody: { taps: components['schemas']['Tap'][] }
    /**
     * @description setting: the one found, or None. best_contrast: the best among settings that can be seen; best_visibility: the
     *     best among those that keep words readable (0 where there are none); both from the sweep of `tried` settings. other:
     *     a setting with another lightness of the same hue where the colour itself has none. bare_contrast: of the worst words
     *     without any wash. trade: what a highlight on dark paper costs, in words; empty on light paper.
     */
    Answer: {
      bare_contrast: number
      best_contrast: number
      best_visibility: number
      other: components['schemas']['Setting'] | null
      setting: components['schemas']['Setting'] | null
      trade: string
      tried: number
    }
    /**
     * @description asked: the number of the pair that is answered; answer: 1 for the first, -1 for the second, 0 for no difference,
     *     None to take the answer before back.
     */
    AnswerBody: { answer: (-1 | 0 | 1) | null; asked: number }
    /** @description words: what came in; left_out: what could not, and why; shared_pen: it is a pen somebody shared. */
    ArchiveCame: { came: components['schemas']['CameIn']; left_out: string[]; shared_pen: boolean; words: string }
    /** @description locked, grouped, places: of strokes by id; front, back: strokes that are put before or behind all others. */
    ArrangeBody: {
      /** @default {} */
      grouped: { [key: string]: string | null }
      /** @default [] */
      ids: string[]
      /** @default {} */
      locked: { [key: string]: boolean }
      /** @default {} */
      places: { [key: string]: number }
      /** @default null */
      to_end: ('front' | 'back') | null
    }
    ArrangeStep: { arranged: components['schemas']['ArrangeBody'] }
    /** @description Of strokes by id: whether they are locked, which group they are of, their place in the order written. */
    Arranged: {
      grouped: { [key: string]: string | null }
      locked: { [key: string]: boolean }
      places: { [key: string]: number }
    }
    /** @description was: what to send to put it back. */
    ArrangedReply: {
      box_mm: components['schemas']['Numbers4'] | null
      sheet: components['schemas']['Sheet']
      was: components['schemas']['Arranged']
    }
    /** @description A nib speed with its delay and gap, and what is missed at it. */
    AtSpeed: {
      bridged: number
      bridged_mm: number
      detail_mm: number
      gap_mm_p50: number
      gap_mm_p95: number
      p50_ms: number
      speed_mm_s: number
      stall_ms: number
      stall_share: number
      start_mm: number
      strokes: number
      strokes_lost: number
    }
    /** @description holds: what it holds in words, "" before it is looked at; good: whether it can be trusted, None before that. */
    BackupItem: {
      bytes: number
      good: boolean | null
      holds: string
      /** Format: date-time */
      made_at: string
      name: string
    }
    BackupList: { backups: components['schemas']['BackupItem'][] }
    /** @description A page that was taken out beside the screen: by how much of full scale they differ on the mean, and why. */
    Beside: { apart: number; page: number; why: string }
    /** @description Into the bin, or back. */
    BinChange: { binned: boolean }
    Body: {
      /**
       * Colour
       * @description Colour of the ink
       * @default #20242b
       */
      colour: string
      /**
       * @default { *       "fill": "#ffffff",
       *       "fill_opacity": 0,
       *       "on": false,
       *       "wall_mm": 0.15
       *     }
       */
      hollow: components['schemas']['Hollow']
      /**
       * @default { *       "pattern": "solid",
       *       "scale": 1
       *     }
       */
      line: components['schemas']['Line']
      /**
       * Opacity
       * @description How much of what lies below is covered; applied once to the whole stroke
       * @default 1
       */
      opacity: number
      /**
       * Width
       * @description Width at the middle of the press curve and the reference speed (mm)
       * @default 0.5
       */
      width_mm: number
    }
    /**
     * @description Added delay at which half the answers are yes, and its 95 % interval, ms; None where that cannot be told, with
     *     the reason in words.
     */
    Bound: { added_ms: number | null; high_ms: number | null; low_ms: number | null; words: string }
    /** @description A browser that came in; address: where it was last seen from. */
    Browser: { address: string; first_seen: string; id: string; last_seen: string; name: string }
    /**
     * @description A single change and the 95th percentile it would leave. path, value: the field of the pen's recipe that makes it;
     *     empty where only another device would.
     */
    Buy: { change: string; p95_ms: number; path: string; value: number | string | null }
    ByEye: {
      /**
       * @default { *       "high": null,
       *       "low": null,
       *       "value": null
       *     }
       */
      bold_print: components['schemas']['Eyed']
      /**
       * @default { *       "high": null,
       *       "low": null,
       *       "value": null
       *     }
       */
      bold_writing: components['schemas']['Eyed']
      /**
       * @default { *       "high": null,
       *       "low": null,
       *       "value": null
       *     }
       */
      ghost: components['schemas']['Eyed']
      /**
       * @default { *       "high": null,
       *       "low": null,
       *       "value": null
       *     }
       */
      greys: components['schemas']['Eyed']
      /**
       * @default { *       "high": null,
       *       "low": null,
       *       "value": null
       *     }
       */
      lines: components['schemas']['Eyed']
      /**
       * @default { *       "high": null,
       *       "low": null,
       *       "value": null
       *     }
       */
      ppi: components['schemas']['Eyed']
      /**
       * @default { *       "high": null,
       *       "low": null,
       *       "value": null
       *     }
       */
      print: components['schemas']['Eyed']
      /**
       * @default { *       "high": null,
       *       "low": null,
       *       "value": null
       *     }
       */
      response: components['schemas']['Eyed']
      /**
       * @default { *       "high": null,
       *       "low": null,
       *       "value": null
       *     }
       */
      writing: components['schemas']['Eyed']
    }
    /** @description What each kind of thing allows, and the fields by which hands and devices are made. */
    CabinetInfo: {
      device_fields: components['schemas']['Control'][]
      hand_fields: components['schemas']['Control'][]
      kinds: components['schemas']['Kind'][]
    }
    /** @description One writing beside another; None where there is too little of it to tell. */
    Calmer: {
      calmer: number | null
      elsewhere: number | null
      high: number | null
      low: number | null
      strip: number | null
    }
    /**
     * @description How many pens, sheets, hands, devices and other things came in; there: how many were there already; twins: names
     *     of those that came in beside another of their id; left_out: what could not, and why.
     */
    CameIn: {
      devices: number
      hands: number
      left_out: string[]
      others: number
      pens: number
      sheets: number
      there: number
      twins: string[]
    }
    /** @description A reading before and after. */
    Change: { after: number | null; before: number | null; reading: string }
    /** @description which: of the corners told, counted from 0; to_mm: where it shall be on the page. */
    ChangeCorner: { to_mm: [number, number]; which: number }
    /** @description backup: which; made_at: when; changes: every thing that would be otherwise. */
    Changes: {
      backup: string
      changes: components['schemas']['Otherwise'][]
      /** Format: date-time */
      made_at: string
    }
    /** @description One side of a trade: what the button does, the pen after it, and the readings it is about. */
    Choice: { changes: components['schemas']['Change'][]; doing: string; recipe: components['schemas']['Recipe'] }
    /**
     * @description Two places along the directions, and which was chosen: 1 the first, -1 the second, 0 neither. repeats: the
     *     question this asked again.
     */
    ChoiceMade: {
      /** @enum {integer} */
      answer: -1 | 0 | 1
      one: number[]
      other: number[]
      /** @default null */
      repeats: number | null
    }
    /** @description recipe: where the search begins; source: the line that is shown. A session is its answers and its seed. */
    Choosing: {
      answers?: components['schemas']['ChoiceMade'][]
      /** @default 4 */
      directions: number
      recipe: components['schemas']['Recipe']
      /** @default 1 */
      seed: number
      source: components['schemas']['Source']
    }
    Chosen: { ids: string[] }
    /**
     * @description kind: line, arrow, arc, circle, ellipse, triangle, rectangle, polygon or curve. ring_mm: its outline as points in
     *     drawing order, the first again at the end where it is closed. off: mean distance of the way from it, of its size.
     */
    CleanFigure: { kind: string; off: number; ring_mm: components['schemas']['Numbers2'][] }
    /** @description layers: the one that is written on, or all; locked_too: also what is locked. */
    ClearPage: {
      /**
       * @default all
       * @enum {string}
       */
      layers: 'all' | 'this'
      /** @default false */
      locked_too: boolean
    }
    Clock: { now_ms: number }
    /** @description Colours of ink beside a colour of paper; pen: whose opacity and blend they are laid with, else full and plain. */
    Colours: {
      colours: string[]
      paper_colour: string
      /** @default null */
      pen: components['schemas']['Recipe'] | null
    }
    /**
     * @description contrasts: WCAG ratio of each colour with the paper, 1..21. lost: whether each hardly shows. rule_colour: the
     *     ruling that suits the paper. shows: pens that write and whose ink stands out on it (3:1 and more), those on the roll
     *     first.
     */
    ColoursReply: { contrasts: number[]; lost: boolean[]; rule_colour: string; shows: components['schemas']['Shown'][] }
    /** @description A stroke that comes about from a moment to another, inside a box of the page. */
    Coming: { box_mm: components['schemas']['Numbers4']; from_s: number; until_s: number }
    /** @description One pen on one device, and what its median is called. */
    Compared: { device_id: string; p50_ms: number; p95_ms: number; pen: string; word: string }
    /**
     * @description One way of seeing the set: the smallest difference, the pair that has it (places in the set; the one after the
     *     last is the paper), what would be enough, whether it is, and how each wash on the paper, then the paper, looks so.
     */
    Condition: {
      enough: number
      name: string
      pair: [number, number]
      passes: boolean
      seen: string[]
      smallest: number
    }
    /**
     * @description What a screen needs to draw one control: a field by its dotted name, and its quantity. low, high, step, knee and
     *     notice are None where the kind has no range or the scale is even. needs: by dotted name too.
     */
    Control: {
      default: unknown
      help: string
      high: number | null
      kind: string
      knee: number | null
      label: string
      low: number | null
      name: string
      needs: string
      notice: number | null
      options: string[]
      step: number | null
      unit: string
    }
    ConvertReply: { amount: number; parameter: number; unit: string }
    /** @description What is taken from a reported place: shift and the rows of B, mm a mm, about a middle; lean, mm. */
    Correction: {
      lean_mm: number
      middle_x_mm: number
      middle_y_mm: number
      shift_x_mm: number
      shift_y_mm: number
      x_by_x: number
      x_by_y: number
      y_by_x: number
      y_by_y: number
    }
    Cover: {
      /**
       * Height
       * @description How broad the strip is (mm)
       * @default 8
       */
      height_mm: number
      /**
       * Id
       * @description By which it is named
       * @default cover
       */
      id: string
      /**
       * From the left
       * @description Where its left edge lies (mm)
       * @default 0
       */
      left_mm: number
      /**
       * From the top
       * @description Where its upper edge lies (mm)
       * @default 0
       */
      top_mm: number
      /**
       * Width
       * @description How long the strip is (mm)
       * @default 40
       */
      width_mm: number
    }
    /** @description saw: the version of the page these were laid on. */
    Covers: {
      covers: components['schemas']['Cover'][]
      /** @default null */
      saw: number | null
    }
    CoversStep: { covers: components['schemas']['Covers'] }
    /**
     * @description dpi of an export, its grit over the panel's, what that means, and why it loses the rest; "" where it does not.
     *     An export finer than the panel shows grit the panel cannot: that is more than the panel's, and not kept of it.
     */
    Crispness: { cause: string; dpi: number; kept: number; words: string }
    /** @description What a criterion is; nothing and all: the values that count 0 and 100. */
    CriterionItem: {
      all: number
      key: string
      needs: string
      nothing: number
      reading: components['schemas']['Reading']
      reason: string
    }
    /** @description The share of the bar a weight has, and the one from which a candidate is level with the one above it. */
    Crossing: { criterion: string; share: number; until: number }
    /**
     * @description Bits beside the mark: the surface whose drops say where they lie, `finer` there; how much of it full load covers;
     *     how far they fall, of the half width; how dark they are, and over which share of heights they fade.
     */
    CrumbPlan: { fade: number; finer: number; load: number; skirt: number; surface: string; tone: number }
    /**
     * @description What a file looks like before it is taken: its columns, which of them is what (None for none), units of lengths
     *     and times, how many rows and strokes, the first rows, and what of it is passed over.
     */
    CsvLook: {
      columns: string[]
      first: string[][]
      length_unit: string
      passed_over: string[]
      roles: { [key: string]: string | null }
      rows: number
      strokes: number
      time_unit: string
    }
    /** @description A press curve as cubic-bezier(x1, y1, x2, y2) of CSS Easing Functions Level 1, and its largest error in P. */
    CubicForm: { largest_error: number; x1: number; x2: number; y1: number; y2: number }
    /** @description One rule by itself: rows (fingers refused, palms refused), and the area under them; None without both. */
    Curve: { area: number | null; points: components['schemas']['Numbers2'][]; rule: string }
    /** @description at_mm: from the top of the long page; crossed: strokes it goes through, where no clear place was found. */
    Cut: { at_mm: number; crossed: number }
    /** @description A part of the page in mm, at a scale of px a mm, and the pen that is to write there. */
    DepositBody: { box_mm: components['schemas']['Numbers4']; recipe: components['schemas']['Recipe']; scale: number }
    /**
     * @description Everything the frame needs at start: what is kept, how the screen was left, and all that is declared. papers: the
     *     writer's own; new_paper: what new sheets lie on, None for paper like the sheet before.
     */
    Desk: {
      devices: components['schemas']['DeviceItem'][]
      erasers: components['schemas']['Eraser'][]
      first_paper: components['schemas']['Paper']
      hand_fields: components['schemas']['Control'][]
      hand_words: { [key: string]: { [key: string]: { [key: string]: number | string } } }
      hands: components['schemas']['HandItem'][]
      lag_fields: components['schemas']['Control'][]
      new_paper: components['schemas']['Paper'] | null
      palette: components['schemas']['Swatch'][]
      palettes: { [key: string]: components['schemas']['Swatch'][] }
      paper_colours: { [key: string]: string }
      paper_sizes_mm: { [key: string]: components['schemas']['Numbers2'] }
      papers: components['schemas']['NamedPaper'][]
      pen_kinds: string[]
      pens: components['schemas']['Pen'][]
      readings: { [key: string]: { [key: string]: components['schemas']['Reading'] } }
      recipe_fields: { [key: string]: components['schemas']['Control'][] }
      roll: string
      rolls: components['schemas']['NamedRoll'][]
      sheet_id: string | null
      sheets: components['schemas']['Sheet'][]
      side: string
      stationery: { [key: string]: { [key: string]: unknown } }
      surface: string
    }
    DeskChange: {
      /** @default null */
      erasers: components['schemas']['Eraser'][] | null
      /**
       * @description New sheets lie on paper like the sheet before
       * @default null
       */
      new_as_before: boolean | null
      /** @default null */
      new_paper: components['schemas']['Paper'] | null
      /** @default null */
      palette: components['schemas']['Swatch'][] | null
      /** @default null */
      papers: components['schemas']['NamedPaper'][] | null
      /** @default null */
      roll: string | null
      /** @default null */
      rolls: components['schemas']['NamedRoll'][] | null
      /** @default null */
      saw: components['schemas']['DeskSeen'] | null
      /** @default null */
      sheet_id: string | null
      /** @default null */
      side: ('hand' | 'left' | 'right') | null
      /** @default null */
      surface: ('auto' | 'paper' | 'night' | 'e-ink') | null
    }
    /** @description desk: lists that were changed, as they are now. */
    DeskKept: { desk: { [key: string]: unknown } }
    /** @description Lists of the desk as they were when a change was made from them: what others changed of them since stays. */
    DeskSeen: {
      /** @default null */
      erasers: components['schemas']['Eraser'][] | null
      /** @default null */
      palette: components['schemas']['Swatch'][] | null
      /** @default null */
      papers: components['schemas']['NamedPaper'][] | null
      /** @default null */
      rolls: components['schemas']['NamedRoll'][] | null
    }
    Device: {
      /**
       * @default { *       "bold_print": { *         "high": null,
       *         "low": null,
       *         "value": null
       *       },
       *       "bold_writing": { *         "high": null,
       *         "low": null,
       *         "value": null
       *       },
       *       "ghost": { *         "high": null,
       *         "low": null,
       *         "value": null
       *       },
       *       "greys": { *         "high": null,
       *         "low": null,
       *         "value": null
       *       },
       *       "lines": { *         "high": null,
       *         "low": null,
       *         "value": null
       *       },
       *       "ppi": { *         "high": null,
       *         "low": null,
       *         "value": null
       *       },
       *       "print": { *         "high": null,
       *         "low": null,
       *         "value": null
       *       },
       *       "response": { *         "high": null,
       *         "low": null,
       *         "value": null
       *       },
       *       "writing": { *         "high": null,
       *         "low": null,
       *         "value": null
       *       }
       *     }
       */
      by_eye: components['schemas']['ByEye']
      /**
       * @default { *       "activation": 0.01,
       *       "clock_jitter": 0.03,
       *       "dropped": 0,
       *       "hover": true,
       *       "levels": 4096,
       *       "noise_mm": 0.01,
       *       "report_hz": 240,
       *       "tilt": true,
       *       "transport_ms": 4,
       *       "wave_mm": 0,
       *       "wave_period_mm": 6
       *     }
       */
      digitiser: components['schemas']['Digitiser']
      /**
       * Kind
       * @description What sort of device it is
       * @default tablet
       * @enum {string}
       */
      kind: 'tablet' | 'laptop' | 'e-paper'
      /**
       * Name
       * @description What the device is called
       * @default A device
       */
      name: string
      /**
       * @default { *       "catch_up_ms": 0,
       *       "colour": true,
       *       "colour_ppi": 0,
       *       "contrast": 1000,
       *       "fast_pen": false,
       *       "fast_pen_hz": 85,
       *       "greys": 256,
       *       "height_px": 1200,
       *       "ppi": 220,
       *       "reflects": 0.03,
       *       "refresh_hz": 60,
       *       "response_ms": 8,
       *       "technology": "LCD",
       *       "vivid": 1,
       *       "white_cd_m2": 400,
       *       "width_px": 1920
       *     }
       */
      panel: components['schemas']['Panel']
      /**
       * Stated delay
       * @description What its data sheet says of the pen's delay; 0 where it says nothing (ms)
       * @default 0
       */
      stated_ms: number
      /**
       * @default { *       "draw_ms": 2,
       *       "draw_sd_ms": 1,
       *       "handover_ms": 4,
       *       "handover_sd_ms": 2,
       *       "queued_frames": 1
       *     }
       */
      system: components['schemas']['System']
      /**
       * @default { *       "least_mm": 3,
       *       "noise_mm": 0.15,
       *       "pen_first": false,
       *       "report_hz": 120,
       *       "size": true,
       *       "size_noise": 0.08,
       *       "transport_ms": 12
       *     }
       */
      touch: components['schemas']['Touch']
      /**
       * @default { *       "clear_ms": 750,
       *       "clears_after": 40,
       *       "fast_ghost": 0.1,
       *       "fast_ms": 20,
       *       "full_ghost": 0.015,
       *       "full_ms": 450,
       *       "grey_ghost": 0.04,
       *       "grey_ms": 260,
       *       "lighter": 1.8,
       *       "quick_greys": 256
       *     }
       */
      updates: components['schemas']['Updates']
    }
    /** @description A kept device. */
    DeviceItem: { device: components['schemas']['Device']; id: string }
    /** @description A dial and where it stands on a pen, 0..1; moves: the fields it moves there. */
    DialAt: { at: number; high: string; low: string; moves: string[]; name: string }
    /** @description A pen as it was when the dial was taken, and where the dial is turned to; without a dial nothing is turned. */
    DialBody: {
      /** @default null */
      dial: string | null
      recipe: components['schemas']['Recipe']
      /** @default 0 */
      to: number
    }
    DialReply: { dials: components['schemas']['DialAt'][]; recipe: components['schemas']['Recipe'] }
    DifferBody: {
      one: components['schemas']['Recipe']
      other: components['schemas']['Recipe']
      source: components['schemas']['Source']
    }
    DifferReply: { differences: components['schemas']['Difference'][] }
    /** @description A reading of two pens on the same traces. */
    Difference: { one: number; other: number; reading: string }
    /** @description Two proofs of one sheet. */
    DifferenceBody: { one: components['schemas']['ProofBody']; other: components['schemas']['ProofBody'] }
    /**
     * @description image: red where they differ, clear where they are alike, over the whole page. mean_l, most_l: of the difference
     *     in L*, of all squares and of the one that differs most.
     */
    DifferenceReply: { image: string; mean_l: number; most_l: number }
    /**
     * @description What still differs between the writing and that of the measured hand: in words, both values, and how many times
     *     the scatter they lie apart.
     */
    Differs: { apart: number; by_hand: number; label: string; unit: string; written: number }
    Digitiser: {
      /**
       * Activation
       * @description Force under this is not noticed (of full force)
       * @default 0.01
       */
      activation: number
      /**
       * Clock jitter
       * @description Unevenness of the reports in time (of an interval)
       * @default 0.03
       */
      clock_jitter: number
      /**
       * Dropped
       * @description Share of reports that never arrive (of reports)
       * @default 0
       */
      dropped: number
      /**
       * Hover
       * @description Whether it sees the pen above the glass
       * @default true
       */
      hover: boolean
      /**
       * Force levels
       * @description Distinct force values (levels)
       * @default 4096
       */
      levels: number
      /**
       * Noise
       * @description RMS error of a reported position, each way (mm)
       * @default 0.01
       */
      noise_mm: number
      /**
       * Report rate
       * @description Pen positions reported a second (reports/s)
       * @default 240
       */
      report_hz: number
      /**
       * Tilt
       * @description Whether it reports how the pen leans
       * @default true
       */
      tilt: boolean
      /**
       * Transport
       * @description From the glass to the system (ms)
       * @default 4
       */
      transport_ms: number
      /**
       * Wave
       * @description How far it errs to either side with the place on its grid (mm)
       * @default 0
       */
      wave_mm: number
      /**
       * Wave's period
       * @description How long one wave of that error is (mm)
       * @default 6
       */
      wave_period_mm: number
    }
    Done: { done: boolean }
    /** @description asks: how many gestures are meant; meant: which, empty where every touch is a palm. */
    DrillItem: { ask: string; asks: number; meant: string; name: string }
    /**
     * @description field: dotted name in the recipe. share: 0..1 of pixels inked at either end of its range that differ. reason: why
     *     it is 0. matters: where in its range a number changes this ink, to a quarter of its scale; None of other kinds.
     */
    Effect: { field: string; matters: components['schemas']['Numbers2'] | null; reason: string; share: number }
    EffectsBody: { group: string; recipe: components['schemas']['Recipe']; source: components['schemas']['Source'] }
    EffectsReply: { effects: components['schemas']['Effect'][] }
    /** @description backup: what was there before, kept as this backup. */
    Emptied: { backup: string; emptied: components['schemas']['Emptying'] }
    /** @description go: what is let go of for good; stay: what is not, and why; with_them: what goes with hands and devices. */
    Emptying: {
      go: components['schemas']['Thing'][]
      stay: components['schemas']['Stays'][]
      with_them: components['schemas']['Use'][]
    }
    Ends: {
      /**
       * Gentleness
       * @description 0 tapers abruptly, 1 gently
       * @default 0.6
       */
      ease: number
      /**
       * End taper
       * @description Length over which the stroke thins out (mm)
       * @default 0
       */
      end_mm: number
      /**
       * End tip
       * @description 1 is blunt, 0 a needle
       * @default 1
       */
      end_tip: number
      /**
       * End, in widths
       * @description Added to the end taper: grows with the pen's width (widths)
       * @default 0
       */
      end_widths: number
      /**
       * Start taper
       * @description Length over which the stroke swells to its width (mm)
       * @default 0
       */
      start_mm: number
      /**
       * Start tip
       * @description 1 is blunt, 0 a needle
       * @default 1
       */
      start_tip: number
      /**
       * Start, in widths
       * @description Added to the start taper: grows with the pen's width (widths)
       * @default 0
       */
      start_widths: number
    }
    /** @description One that is kept on the roll. as_seen: so large on the screen, not on the page. */
    Eraser: {
      /** @default false */
      as_seen: boolean
      /**
       * @default all
       * @enum {string}
       */
      layers: 'all' | 'this'
      /** @default false */
      locked_too: boolean
      /**
       * @default [
       *       "ink",
       *       "washes",
       *       "figures",
       *       "fills"
       *     ]
       */
      of: ('ink' | 'washes' | 'figures' | 'fills')[]
      size_mm: number
      /**
       * @default rubbed
       * @enum {string}
       */
      takes: 'rubbed' | 'strokes' | 'ringed'
    }
    /** @description code: what kind of refusal it is, the same whatever the words. */
    ErrorDetail: { code: string; field: string | null; message: string }
    ErrorReply: { error: components['schemas']['ErrorDetail'] }
    /**
     * @description pages: "this", "all", or numbers like "2-4, 7". apart: a file for each page. names: what files are called, with
     *     {sheet}, {page}, {bookmark} and {date}. device_id: a PNG as this device's panel shows it, pixel for pixel. cut_mm: a
     *     PDF's longer pages are cut into such of at most this height. annotated: a PDF's ink as annotations. lifted: with
     *     the covers off what they cover.
     */
    ExportBody: {
      /** @default false */
      annotated: boolean
      /** @default false */
      apart: boolean
      /** @default null */
      cut_mm: number | null
      /** @default null */
      device_id: string | null
      /**
       * @description Pixels an inch of a PNG (dpi)
       * @default 300
       */
      dpi: number
      /**
       * @default pdf
       * @enum {string}
       */
      form: 'svg' | 'png' | 'pdf' | 'inkml' | 'ora'
      /** @default false */
      lifted: boolean
      /** @default {sheet} */
      names: string
      /** @default this */
      pages: string
      /** @default true */
      paper: boolean
    }
    /** @description dpi: 0 for the panel itself. */
    Exported: { apart_l: number | null; dpi: number; edge_mm: number; faint: number }
    /**
     * @description looks: the panel's look, then pictures of the sheet at several dpi; softest_dpi: the finest whose edges are
     *     clearly softer than the panel's, None where none are.
     */
    Exports: { looks: components['schemas']['Exported'][]; softest_dpi: number | null }
    /**
     * @description value: the smallest that is seen, of greys how many; None where that cannot be told. low, high: its 95 %
     *     interval, None on a side where the ladder ends first. level: what to show next; done: whether it needs no more.
     */
    EyeSees: {
      done: boolean
      high: number | null
      level: number
      low: number | null
      value: number | null
      words: string
    }
    Eyed: {
      /**
       * At most
       * @description Upper end of its interval
       * @default null
       */
      high: number | null
      /**
       * At least
       * @description Lower end of its interval
       * @default null
       */
      low: number | null
      /**
       * Found
       * @description What was found by eye
       * @default null
       */
      value: number | null
    }
    /** @description A bound that a pen misses, in words, and its reading of Nature. */
    Failed: { reading: string; value: number; words: string }
    /**
     * @description What the turns so far tell. catches, mistaken: turns to which nothing was added, and how many of them were called
     *     slight or laggy. set_aside: turns in which the browser did not add what was asked. enough: no more turns are needed.
     *     speed_mm_s: median over the turns; bare_frame_ms: over the catch turns, from an event to its frame.
     */
    Feel: {
      bare_frame_ms: number | null
      catches: number
      disturbed: components['schemas']['Bound']
      enough: boolean
      mistaken: number
      noticed: components['schemas']['Bound']
      set_aside: number
      speed_mm_s: number | null
      turns: number
    }
    FeelBody: {
      device_id: string
      /** @default null */
      filmed: components['schemas']['Filmed'] | null
      recipe: components['schemas']['Recipe']
      seed: number
      turns: components['schemas']['Turn'][]
    }
    /** @description next: what is to be written now, under which delay. felt: None while nothing can be told. */
    FeelReply: {
      feel: components['schemas']['Feel']
      felt: components['schemas']['Felt'] | null
      next: components['schemas']['Next']
    }
    /**
     * @description A hand's own thresholds as delays from nib to light, with what was there before anything was added. base_from:
     *     how that is known.
     */
    Felt: {
      base_from: string
      base_ms: number
      disturbed_ms: number | null
      high_ms: number
      low_ms: number
      noticed_ms: number
      speed_mm_s: number
      turns: number
    }
    /** @description What counts for this hand now. */
    FeltReply: { kept: components['schemas']['KeptFelt'] | null }
    /** @description field: its dotted name; label: as the screens call it; words: from what to what, with its unit. */
    FieldChange: { field: string; label: string; words: string }
    /** @description One number with its half 95 % interval (None where it has none), what it covers, and how it lies to the model. */
    Figure: { covers: string; ms: number; name: string; plus_minus_ms: number | null; words: string }
    /** @description anchor_mm: what stays where it is while the figure is sized and turned. */
    FigureMeant: {
      anchor_mm: components['schemas']['Numbers2'] | null
      figure: components['schemas']['CleanFigure'] | null
    }
    /** @description kind and corners, on the page, of the figure a stroke was made; nothing for ink that is none. */
    FigureOfInk: { corners_mm: components['schemas']['Numbers2'][]; kind: string | null }
    /** @description What the inside of a stroke is filled with. */
    Fill: {
      /** @default #f2c14e */
      colour: string
      /** @default 0.4 */
      opacity: number
    }
    /** @description fill: for the inside of these strokes; None takes theirs away. */
    FillInk: {
      /** @default null */
      fill: components['schemas']['Fill'] | null
      ids: string[]
    }
    FilmBody: {
      device_id: string
      /**
       * @description Of the simulated camera (frames/s)
       * @default 240
       */
      fps: number
      recipe: components['schemas']['Recipe']
      /** @default 1 */
      seed: number
    }
    /** @description A film held for stepping: how many frames, their size, the camera, and how many of them must be marked. */
    FilmFrames: {
      /** @description How many frames a second the camera takes (frames/s) */
      fps: number
      frames: number
      height_px: number
      least_marked: number
      /** @description Measure something of known length in a frame (mm a pixel) */
      mm_per_px: number
      width_px: number
    }
    /** @description speed: how many times as fast as it was written; form: an animated WebP or PNG, or a zip of PNG frames. */
    FilmOut: {
      /**
       * @default time
       * @enum {string}
       */
      by: 'time' | 'stroke' | 'steady'
      /**
       * @default webp
       * @enum {string}
       */
      form: 'webp' | 'png' | 'zip'
      /** @default 12 */
      frames_hz: number
      /** @default 4 */
      speed: number
      /** @default 800 */
      width_px: number
    }
    /**
     * @description A reading as it is told. truth_ms: the delay where the film is simulated. nib_px, front_px: where they were found
     *     in frame number `frame`, to be shown on it.
     */
    FilmReading: {
      ci95_ms: number
      delay_ms: number
      frame: number
      frames_used: number
      front_px: number
      gap_mm: number
      nib_px: number
      speed_mm_s: number
      truth_ms: number | null
    }
    Filmed: {
      /**
       * Uncertainty
       * @description Half the 95 % interval (ms)
       */
      ci95_ms: number
      /**
       * Filmed delay
       * @description From nib to light (ms)
       */
      delay_ms: number
      /**
       * Speed in the film
       * @description How fast the filmed nib moved (mm/s)
       * @default null
       */
      speed_mm_s: number | null
    }
    FirstChoices: { uses: components['schemas']['FirstUse'][] }
    /** @description device_id: a stand-in, or None for this screen, which is taken to be like its sort until it is measured. */
    FirstDesk: {
      /** @default null */
      device_id: string | null
      /** @default false */
      hooked: boolean
      /**
       * @default touch
       * @enum {string}
       */
      screen: 'paper' | 'touch' | 'mouse'
      /**
       * @default right
       * @enum {string}
       */
      side: 'left' | 'right'
      /** @default quick notes */
      use: string
    }
    /** @description What one may mostly write, and the paper it starts with. */
    FirstUse: { help: string; name: string; paper: components['schemas']['Paper'] }
    FitBody: {
      /** @default 0.6 */
      blend: number
      press: components['schemas']['Press']
      source: components['schemas']['Source']
    }
    /** @description before, after: how the press record uses the force. cubic: the two-point form and its largest error. */
    FitReply: {
      after: components['schemas']['PressUse']
      before: components['schemas']['PressUse']
      cubic: components['schemas']['CubicForm']
      press: components['schemas']['Press']
      samples: number
    }
    /**
     * @description width_mm, colour: what to set; None where no change within reach does it. before, after: of each panel, the share
     *     of the ink's length that vanishes. cost: 0 where nothing needs to change.
     */
    Fitted: { after: number[]; before: number[]; colour: string | null; cost: number; width_mm: number | null }
    /** @description counts: samples in equal bins of force from 0 to 1; absent: channels the device did not give. */
    ForceReply: { absent: string[]; counts: number[]; samples: number }
    /** @description recipe: the pen with what a file told; largest_error: of what was fitted. */
    FormBack: { largest_error: number | null; recipe: components['schemas']['Recipe']; words: string }
    /** @description A form that others can take over, and what of a pen it cannot hold. */
    FormItem: { ending: string; name: string; not_held: string; words: string }
    FormList: { forms: components['schemas']['FormItem'][] }
    /**
     * @description things: those of the page asked for; count: how many there are; by_kind: how many of each kind, whatever kind was
     *     asked for.
     */
    Found: { by_kind: { [key: string]: number }; count: number; things: components['schemas']['Thing'][] }
    /** @description Of the frame's quiet words and of what they stand on. */
    FrameColours: { ground: string; words: string }
    /** @description Candidates of which both can be told. */
    Front: { spots: components['schemas']['FrontSpot'][] }
    /** @description across, up: points of two criteria; front: no other is as good in both and better in one. */
    FrontSpot: { across: number; candidate: string; front: boolean; up: number }
    /**
     * @description apart_l: how far bare paper is off in L* where ink was written and erased once, twice and so on by grey updates.
     *     seen_after: how often until it is noticed, None where it is not.
     */
    Ghosts: { apart_l: number[]; seen_after: number | null }
    /**
     * @description A word, whether it calls for better rules, and the most of each harm and cost it still allows: slips a minute
     *     (marks, taps, page shifts that are noticed, lost ink), share of meant gestures refused, delay; None for no bound.
     */
    Grade: {
      attention: boolean
      delay_ms: number | null
      refused_share: number
      slips_a_minute: number | null
      word: string
    }
    GradeItem: { grade: string; image: string; tone: number }
    /** @description own: a grain as `tooth.own` holds it. */
    Grain: { own: string }
    /**
     * @description What live ink needs of the surface: its name, heights 0..255 row by row in base64, samples a mm, and how load
     *     becomes a mark (grain.py). heights: empty where they are those of a surface that ships, and are had elsewhere.
     *     bristles, hairs: how far a brush splits, and into how many (rub.py). levelled: how much of the surface is level
     *     where strokes below have filled it.
     */
    GrainPlan: {
      bristles: number
      crisp: boolean
      crumbs: components['schemas']['CrumbPlan'] | null
      depth: number
      hairs: number
      heights: string
      levelled: number
      load_over_altitude: number[]
      pace_share: number
      per_mm: number
      size: number
      smear: components['schemas']['SmearPlan'] | null
      soft: number
      surface: string
      thin: number
      valleys: number
    }
    GridBody: {
      ink: components['schemas']['Recipe']
      papers: string[]
      /** @default 4 */
      passes: number
      /** @default 8 */
      px_per_mm: number
      source: components['schemas']['Source']
      /** @default wings folded */
      typed: string
      wash: components['schemas']['Recipe']
    }
    /** @description Readings as in core/highlighter/grid.py under `passes` passes, the picture, and what the visibility is called. */
    GridCell: {
      image: string
      passes: number
      seen: string
      typed: number
      unevenness: number
      visibility: number
      writing: number
    }
    GridReply: { rows: components['schemas']['GridRow'][] }
    /**
     * @description ink: the pen the words on this paper are in. readable, large: the first pass under which writing or print falls
     *     below 4.5:1 and 3:1, None where they stay above. overlap: CIEDE2000 between one pass and two.
     */
    GridRow: {
      cells: components['schemas']['GridCell'][]
      ink: string
      large: { [key: string]: number | null }
      overlap: number
      paper: string
      readable: { [key: string]: number | null }
    }
    /**
     * @description group: the kind, "" for all together; refused: why it cannot be ranked, with none of its places then; presets:
     *     the place of each candidate by preset, where it can be told.
     */
    GroupRanking: {
      group: string
      presets: { [key: string]: { [key: string]: number } }
      ranking: components['schemas']['Ranking']
      refused: string
    }
    /**
     * @description 95th percentiles of how far guesses lay from where the nib then was, of the browser and of look-ahead at the same
     *     reports for the same moments, ahead_ms later in the middle.
     */
    Guessed: { ahead_ms: number; guesses: number; ours_mm: number; theirs_mm: number }
    /**
     * @description One field of the hand: its value and 95 % interval; told: whether this writing tells it, why_not where it does
     *     not.
     */
    Habit: {
      field: string
      high: number | null
      low: number | null
      told: boolean
      value: number | string
      why_not: string
    }
    Hand: {
      /**
       * Grip
       * @description Angle between pen and page; 90 is upright (deg)
       * @default 55
       */
      altitude_deg: number
      /**
       * Pen points
       * @description Where the pen's top points, from right towards the writer; mirrored for a left hand (deg)
       * @default 45
       */
      azimuth_deg: number
      /**
       * Grip drift
       * @description How far the pen tips to and fro while it writes, as a mean of squares (deg)
       * @default 2
       */
      drift_deg: number
      /**
       * Everyday force
       * @description Mean force on the glass (of full force)
       * @default 0.45
       */
      force: number
      /**
       * Force swing
       * @description How much heavier downstrokes are than upstrokes (of full force)
       * @default 0.18
       */
      force_swing: number
      /**
       * Letters
       * @description Joined script or plain separate letters
       * @default script
       * @enum {string}
       */
      letters: 'script' | 'plain'
      /**
       * Lift
       * @description How long the force takes to fall as a stroke ends (ms)
       * @default 60
       */
      lift_ms: number
      /**
       * Name
       * @description What the hand is called
       * @default A hand
       */
      name: string
      /**
       * Onset
       * @description How long a stroke takes from the first touch to its force (ms)
       * @default 45
       */
      onset_ms: number
      /**
       * Palm
       * @description Length of the patch the resting palm presses on the glass (mm)
       * @default 28
       */
      palm_mm: number
      /**
       * Pause
       * @description How long the pen is off the page between two strokes, travel apart (ms)
       * @default 130
       */
      pause_ms: number
      /**
       * Hand comes
       * @description From below, from the side, or hooked above the line
       * @default below
       * @enum {string}
       */
      rest: 'below' | 'side' | 'above'
      /**
       * Writing hand
       * @description Which hand holds the pen
       * @default right
       * @enum {string}
       */
      side: 'left' | 'right'
      /**
       * Slant
       * @description How far upright strokes lean to the right (deg)
       * @default 6
       */
      slant_deg: number
      /**
       * Speed
       * @description Mean speed of the nib on the page (mm/s)
       * @default 30
       */
      speed_mm_s: number
      /**
       * Tremor
       * @description RMS amplitude of the 8 to 12 Hz tremor, each way (mm)
       * @default 0.02
       */
      tremor_mm: number
      /**
       * Baseline wander
       * @description How far the line strays up and down (mm)
       * @default 0.25
       */
      wander_mm: number
      /**
       * Letter height
       * @description Height of a small x (mm)
       * @default 2.6
       */
      x_height_mm: number
    }
    HandBin: { binned: boolean; hand_id: string }
    /** @description A kept hand. */
    HandItem: { hand: components['schemas']['Hand']; id: string }
    /** @description A hand that need not be kept, and the pen and device it writes a line with. */
    HandLine: {
      device_id: string
      hand: components['schemas']['Hand']
      /** @default 150 */
      height_px: number
      recipe: components['schemas']['Recipe']
      /** @default moths on the sheet */
      text: string
      /** @default 1200 */
      width_px: number
    }
    HandLineReply: { image: string }
    HeatBody: {
      /** @default 360 */
      height_px: number
      /**
       * @default width
       * @enum {string}
       */
      quantity: 'width' | 'force' | 'speed'
      recipe: components['schemas']['Recipe']
      source: components['schemas']['Source']
      /** @default 1200 */
      width_px: number
    }
    HeatReply: {
      box_mm: components['schemas']['Numbers4']
      colours: string[]
      high: number
      image: string
      low: number
      unit: string
    }
    /** @description Rest at the end of a stroke that asks for it to be drawn straight. */
    HoldPlan: { after_s: number; least_mm: number; within_mm: number }
    Hollow: {
      /**
       * Filling
       * @description Colour between the walls
       * @default #ffffff
       */
      fill: string
      /**
       * Filling opacity
       * @description 0 leaves the paper showing between the walls
       * @default 0
       */
      fill_opacity: number
      /**
       * Hollow
       * @description Draw the stroke as two walls with a filling between them
       * @default false
       */
      on: boolean
      /**
       * Wall
       * @description Thickness of each wall (mm)
       * @default 0.15
       */
      wall_mm: number
    }
    HollowPlan: { fill: string; fill_opacity: number; wall_mm: number }
    /** @description The strokes that were written in the strip. */
    InStrip: { ids: string[] }
    /**
     * @description Counts over the whole writing. Times are None where there was nothing of the sort, or where it does not become
     *     true before the panel clears; ghost_l where no bare paper is left.
     */
    InTimeReadings: {
      clears: number
      driven: number
      erased_ms: number | null
      fast: number
      full: number
      ghost_l: number | null
      grey: number
      scrolled_ms: number | null
      true_p50_ms: number | null
      true_p95_ms: number | null
      turned_ms: number | null
      wash_ms: number | null
    }
    InkAgain: { inks: components['schemas']['PenOfInk'][] }
    /** @description box_mm: the part of the page whose picture changed; sheet: as it is now. */
    InkChanged: { box_mm: components['schemas']['Numbers4']; sheet: components['schemas']['Sheet'] }
    InkFile: {
      /**
       * @description Pixels an inch of a PNG (dpi)
       * @default 300
       */
      dpi: number
      /**
       * @default png
       * @enum {string}
       */
      form: 'svg' | 'png'
      ids: string[]
    }
    /** @description Strokes of a sheet and the pen revision that draws them. ids: None for all of that pen's on the sheet. */
    InkOf: { ids: string[] | null; pen_id: string; revision: number }
    /** @description How much of the ink that was read a pen drew; revision: 0 or less where it drew with changes not kept. */
    InkShare: { name: string; pen_id: string; revision: number; strokes: number }
    /** @description was: what drew the strokes that changed, to be sent to put them back; strokes: how many changed. */
    InkedAgain: {
      box_mm: components['schemas']['Numbers4'] | null
      sheet: components['schemas']['Sheet']
      strokes: number
      was: components['schemas']['InkOf'][]
    }
    /** @description Strokes of a sheet, a line the stand-in of a device writes, or strokes just written here. */
    InspectBody: {
      /** @default null */
      seen: components['schemas']['Seen'] | null
      /** @default null */
      source: components['schemas']['Source'] | null
      /** @default null */
      stand_in: string | null
    }
    /**
     * @description report_hz: from the median interval; clock_jitter: deviation of intervals over their median, gaps left out;
     *     per_frame: reports a frame of the screen. gaps: how many pauses over GAP_INTERVALS medians while the pen moved,
     *     gap_mm the longest way one bridges. missing: share of reports that never came. levels: distinct forces seen;
     *     force_low, force_high: the range used; onset: the smallest first force. rest_noise_mm: deviation at rest each way,
     *     None where the pen never rested. hover, contact_size: whether the device sees the pen above the glass and how large
     *     a touch is, None where that was not tried. absent: what is not reported.
     */
    Inspection: {
      absent: string[]
      clock_jitter: number
      contact_size: boolean | null
      force_high: number
      force_low: number
      gap_mm: number
      gaps: number
      hover: boolean | null
      levels: number
      missing: number
      onset: number
      per_frame: number
      report_hz: number
      reports: number
      rest_noise_mm: number | null
      words: string[]
    }
    /** @description state: running, done, refused (message says why) or cancelled. share: of the work that is done, 0 to 1. */
    JobItem: { id: string; kind: string; message: string; share: number; state: string }
    /**
     * @description How one judges. chance: at most that of answers at random to be so well foretold, None before there are two;
     *     agrees: share of pairs seen more than once that were answered alike, None before there was one, of how many;
     *     checked: share of checks in which the same was called no different.
     */
    Judge: {
      agrees: number | null
      answers: number
      chance: number | null
      checked: number | null
      checks: number
      twice: number
    }
    JudgeBody: { recipe: components['schemas']['Recipe'] }
    /**
     * @description One contact: a palm by the truth or not, what became of it and why. path: rows (t_ms, x, y, width, height). mark:
     *     finger ink, flat x, y.
     */
    JudgedContact: {
      at_ms: number
      born_ms: number
      decision: string
      end_ms: number
      id: number
      mark: number[]
      palm: boolean
      path: [number, number, number, number, number][]
      rule: string
      why: string
    }
    /**
     * @description One drill, done for the `take`th time: its contacts, the nib's way (t_ms, x, y, 1 in contact), how the page lay
     *     (t_ms, scale, x, y), and what came of it.
     */
    JudgedDrill: {
      contacts: components['schemas']['JudgedContact'][]
      drill: string
      lasts_ms: number
      nib: [number, number, number, number][]
      outcome: components['schemas']['Outcome']
      take: number
      views: components['schemas']['Numbers4'][]
    }
    /** @description theta: ln strength with its interval, mean 0; tied: not told apart from the one before. */
    JudgedPen: {
      high: number
      low: number
      name: string
      pen_id: string
      revision: number
      theta: number
      tied: boolean
    }
    /**
     * @description Drills on a screen of this size: every take of each, the takes of a drill together, all together, the grade, and
     *     whose fault it is what is left. missing: drills that were not done. verdict: the grade, or that it cannot be told
     *     yet: a good one not before all are done.
     */
    JudgedRun: {
      drills: components['schemas']['Takes'][]
      fault: string
      grade: components['schemas']['Grade']
      missing: string[]
      parts: components['schemas']['JudgedDrill'][]
      screen_mm: components['schemas']['Numbers2']
      total: components['schemas']['Outcome']
      verdict: string
      zone: components['schemas']['Zone']
    }
    /** @description asked: how many pairs were answered; pens: their ids, in no order of rank. */
    JudgingItem: { asked: number; created_at: string; id: string; judge: string; pens: string[]; sheet_id: string }
    Judgings: { judgings: components['schemas']['JudgingItem'][] }
    /** @description saw: the fit there was when this was made. */
    KeepFit: {
      device_id: string
      hand_id: string
      press: components['schemas']['Press']
      /** @default null */
      saw: components['schemas']['Press'] | null
    }
    /** @description A line-up that was measured, under a name, with what counts and the verdict so far. */
    KeepLineup: {
      /** @default false */
      by_kind: boolean
      families?: { [key: string]: string }
      musts?: components['schemas']['MustBody'][]
      name: string
      own?: components['schemas']['OwnScores'][]
      /** @default  */
      verdict: string
      weights: { [key: string]: number }
    }
    KeepPiece: { ids: string[]; name: string; sheet_id: string }
    /** @description pen, device: the names of what it was written with and on. */
    KeptFelt: { created_at: string; device: string; felt: components['schemas']['Felt']; id: string; pen: string }
    KeptFit: { press: components['schemas']['Press'] | null }
    /** @description run_id: the task its measuring can be read and ranked by; set: what counted, and the verdict. */
    KeptLineup: { head: components['schemas']['LineupHead']; run_id: string; set: components['schemas']['KeepLineup'] }
    KeptLineups: { lineups: components['schemas']['LineupHead'][] }
    /**
     * @description name: as in `things.kind`; words, many: one and several of it, as it is said. copies, renames, bins: what can
     *     be done with one here. pictured: the core draws one.
     */
    Kind: {
      bins: boolean
      copies: boolean
      many: string
      name: string
      pictured: boolean
      renames: boolean
      words: string
    }
    LadderBody: {
      /** @default 360 */
      height_px: number
      /**
       * @default width
       * @enum {string}
       */
      over: 'width' | 'opacity' | 'range'
      /** @default #ffffff */
      paper_colour: string
      recipe: components['schemas']['Recipe']
      /** @default 1200 */
      width_px: number
    }
    LadderReply: { image: string; values: number[] }
    /**
     * @description mean, sd in closed form; percentiles from DRAWS seeded draws. word: what the median is called. catch_up_ms: None
     *     on panels without a slow path. buys: best first.
     */
    Lag: {
      behind_p50_ms: number
      behind_p95_ms: number
      browser_ms: number
      buys: components['schemas']['Buy'][]
      catch_up_ms: number | null
      first_ink_ms: number
      gap_mm_p50: number
      gap_mm_p95: number
      mean_ms: number
      p50_ms: number
      p95_ms: number
      pen_ms: number
      sd_ms: number
      speed_mm_s: number
      stages: components['schemas']['Share'][]
      word: string
    }
    /**
     * @description A pen on a device, and the pens to lay beside it on every device. source: the writer's own line, for look-ahead
     *     to be judged by; hand_id: whose thresholds count.
     */
    LagBody: {
      beside: components['schemas']['Recipe'][]
      device_id: string
      /** @default null */
      filmed: components['schemas']['Filmed'] | null
      /** @default null */
      hand_id: string | null
      /** @default null */
      live: components['schemas']['Live'] | null
      recipe: components['schemas']['Recipe']
      /** @default null */
      source: components['schemas']['Source'] | null
      /**
       * @description How fast the nib goes (mm/s)
       * @default 60
       */
      speed_mm_s: number
    }
    /**
     * @description now: the pen asked for. table: every pen on every device. speeds: this pen and device, the speed asked for first.
     *     figures: stated, modelled, live, filmed, felt. update_ms: how long the device shows one picture of the ink.
     */
    LagReply: {
      ahead: components['schemas']['LookedAhead']
      felt: components['schemas']['KeptFelt'] | null
      figures: components['schemas']['Figure'][]
      now: components['schemas']['Lag']
      speeds: components['schemas']['AtSpeed'][]
      table: components['schemas']['Compared'][]
      thresholds: components['schemas']['Threshold'][]
      update_ms: number
    }
    /**
     * @description A run of the Lag trial with all it was made from. hand: its name. made_by: the version that worked its figures
     *     out, empty of runs kept before 0.9.0; they are not worked out again.
     */
    LagRun: {
      created_at: string
      device: components['schemas']['Device']
      figures: components['schemas']['Figure'][]
      filmed: components['schemas']['Filmed'] | null
      hand: string
      id: string
      live: components['schemas']['Live'] | null
      look_ahead_ms: number
      made_by: string
      now: components['schemas']['Lag']
      recipe: components['schemas']['Recipe']
      verdict: string
    }
    LagRuns: { runs: components['schemas']['LagRun'][] }
    /** @description A kept run, or a pen on a device as they are set now. */
    LagSetting: {
      /** @default null */
      device_id: string | null
      /** @default null */
      recipe: components['schemas']['Recipe'] | null
      /** @default null */
      run_id: string | null
    }
    /** @description A print laid in one of these ways; the others stay. */
    LayAnew: {
      /** @default false */
      carries: boolean
      /** @enum {string} */
      how: 'fit' | 'fill' | 'true' | 'turn'
      id: string
    }
    /** @description One layer. id: by which strokes name it. */
    Layer: {
      /** @default normal */
      blend: string
      /** @default false */
      clipped: boolean
      /** @default false */
      cover: boolean
      /** @default first */
      id: string
      /** @default false */
      locked: boolean
      /** @default ink */
      name: string
      /** @default 1 */
      opacity: number
      /** @default true */
      shown: boolean
    }
    /** @description Layers from below, the one that is written on, and strokes by the layer they are put on. */
    Layering: { layers: components['schemas']['Layer'][]; moved: { [key: string]: string[] }; on: string }
    /**
     * @description layers: from below, all that the sheet shall have; on: the one that is written on; moved: strokes by the layer
     *     they are put on; saw: the layers this was made from.
     */
    LayersBody: {
      layers: components['schemas']['Layer'][]
      /** @default {} */
      moved: { [key: string]: string[] }
      on: string
      /** @default null */
      saw: components['schemas']['Layer'][] | null
    }
    /** @description held: how many strokes each layer holds; fields: what a layer is set by; ready_made: a set for sketches. */
    LayersHold: {
      fields: components['schemas']['Control'][]
      held: { [key: string]: number }
      ready_made: components['schemas']['Layer'][]
    }
    /** @description was: what to send to put it back; held: how many strokes each layer holds. */
    LayersReply: { sheet: components['schemas']['Sheet']; was: components['schemas']['Layering'] }
    LayersStep: { layers: components['schemas']['LayersBody'] }
    Lean: {
      /**
       * Leaning from
       * @description Altitude at which the side begins to touch (deg)
       * @default 60
       */
      from_deg: number
      /**
       * Side of the lead
       * @description Length of the mark when the pen lies on its side; 0 ignores tilt (mm)
       * @default 0
       */
      side_mm: number
      /**
       * Flat at
       * @description Altitude at which the whole side touches (deg)
       * @default 25
       */
      to_deg: number
    }
    /** @description The smallest change of one reading that lifts a candidate a place, if all else stays. */
    Lift: { criterion: string; needed: number; now: number }
    /** @description ids: strokes whose like are looked for; None for all ink there is. by: what they have in common. */
    LikeThese: {
      /**
       * @default pen
       * @enum {string}
       */
      by: 'pen' | 'colour' | 'kind'
      /** @default null */
      ids: string[] | null
    }
    /**
     * @description What the engine takes for granted, as a plan for the browser carries it beside the rules: when a touch has moved,
     *     how much farther it must stray at rest, how long a tap lasts; what its look and the nib's jump are told by.
     */
    Limits: {
      again_mm: number
      again_ms: number
      at_rest: number
      fastest_mm_s: number
      frame_ms: number
      least_trail_ms: number
      least_way_mm: number
      longest_ms: number
      near_mm: number
      slop_mm: number
      tap_ms: number
      trail_ms: number
    }
    Line: {
      /**
       * Line
       * @description Whole line or a pattern along it
       * @default solid
       * @enum {string}
       */
      pattern: 'solid' | 'dash' | 'dot' | 'dash-dot'
      /**
       * Pattern length
       * @description Stretches the pattern; lengths are multiples of the width (x)
       * @default 1
       */
      scale: number
    }
    /** @description A line in the shared pen, with the readings there. */
    LineSeen: { image: string; readings: { [key: string]: number | null } }
    /** @description place: along the directions; image: a data URL of the line. */
    LineShown: { image: string; place: number[] }
    /** @description A candidate as it was measured; group: its pen's kind. */
    LinedUp: {
      device_id: string
      group: string
      hand_id: string
      key: string
      name: string
      pen_id: string
      revision: number
    }
    /** @description Lines ruled aslant, in mm on the screen. */
    LinesBody: { lines: components['schemas']['StrokeColumns'][] }
    /** @description revision: the newest where none is named. */
    LineupCandidate: {
      device_id: string
      hand_id: string
      pen_id: string
      /** @default null */
      revision: number | null
    }
    /** @description A kept line-up as a list shows it. candidates: how many. */
    LineupHead: { candidates: number; created_at: string; id: string; made_by: string; name: string; verdict: string }
    /** @description presets: weights by kind of user. */
    LineupInfo: {
      criteria: components['schemas']['CriterionItem'][]
      presets: { [key: string]: { [key: string]: number } }
    }
    /**
     * @description points: 0 to 100 by candidate and criterion, None where it cannot be told; unequal: conditions that are not the
     *     same for all, in words; version: of the program that measured.
     */
    LineupRun: {
      candidates: components['schemas']['LinedUp'][]
      glass: string
      measured: components['schemas']['Measured']
      points: (number | null)[][]
      real: boolean
      seed: number
      sheet_id: string
      tip: string
      unequal: string[]
      version: string
      written: components['schemas']['Written'][]
    }
    Live: {
      /**
       * Controls
       * @description From pressing a control to its picture (ms)
       * @default null
       */
      control_ms: number | null
      /**
       * Dropped frames
       * @description Frames that were not shown in time (frames)
       */
      dropped: number
      /**
       * Events
       * @description Pen events that were timed (events)
       */
      events: number
      /**
       * To the frame, median
       * @description From an event to the frame that shows it (ms)
       */
      frame_p50_ms: number
      /**
       * To the frame, 95 %
       * @description From an event to the frame that shows it (ms)
       */
      frame_p95_ms: number
      /**
       * To the page, median
       * @description From an event to its handler (ms)
       */
      handler_p50_ms: number
      /**
       * To the page, 95 %
       * @description From an event to its handler (ms)
       */
      handler_p95_ms: number
      /**
       * Long tasks
       * @description Tasks of the page over 50 ms (tasks)
       */
      long_tasks: number
      /**
       * Raw updates
       * @description To a raw update's handler, median (ms)
       * @default null
       */
      raw_p50_ms: number | null
    }
    /**
     * @description found: so far, and at which level to go on. pick: which of the four is right; grey: the ground of a grey that is
     *     laid on it; words: four that look alike.
     */
    LookNext: { found: components['schemas']['EyeSees']; grey: number; pick: number; words: string[] }
    Looked: {
      /**
       * Level
       * @description How easy it was, in the ladder's unit
       */
      level: number
      /**
       * Right
       * @description Whether the right one of the four was chosen
       */
      right: boolean
    }
    /**
     * @description on: the turn, the corner, the writer's own line where there is one. most_ms: how far ahead one may look on them,
     *     the corner left out, 0 where less than LEAST_AHEAD_MS is left of it. words: what to know of it.
     */
    LookedAhead: { most_ms: number; on: components['schemas']['Ahead'][]; words: string[] }
    /** @description Answers so far in one of the ladders; seed: of what is shown next. */
    LooksBody: {
      kind: string
      looks: components['schemas']['Looked'][]
      /** @default 0 */
      seed: number
    }
    /** @description In frame number `frame` (from 0) the nib is at nib_px, the ink ends at front_px, both (x, y) in pixels. */
    Mark: { frame: number; front_px: components['schemas']['Numbers2']; nib_px: components['schemas']['Numbers2'] }
    /** @description A marked passage and the page it is on. */
    MarkOn: { mark: components['schemas']['Passage']; page: number; page_id: string }
    /** @description As film_reader.Reading, from marks. */
    Marked: { ci95_ms: number; delay_ms: number; frames_used: number; gap_mm: number; speed_mm_s: number }
    /** @description By colour of wash, each colour where it is first met. */
    MarkedPassages: { marks: components['schemas']['MarkOn'][] }
    MarksBody: {
      /** @description How many frames a second the camera takes (frames/s) */
      fps: number
      marks: components['schemas']['Mark'][]
      /** @description Measure something of known length in a frame (mm a pixel) */
      mm_per_px: number
    }
    /** @description Several settings that looked the same. off: half of the mean's 95 % interval. */
    Matched: { off: number; value: number }
    MatchesBody: { settings: number[] }
    /** @description matched: None while there are too few. */
    MatchesReply: { matched: components['schemas']['Matched'] | null }
    /** @description A sheet to measure a hand from; like: the hand for what writing does not tell; recipe: for the picture. */
    MeasureBody: {
      /** @default 150 */
      height_px: number
      like: components['schemas']['Hand']
      recipe: components['schemas']['Recipe']
      sheet_id: string
      /** @default 1200 */
      width_px: number
    }
    /** @description measured: the hand; image: the longest line it was measured from, to lay beside what the hand writes. */
    MeasureReply: { image: string; measured: components['schemas']['OwnHand'] }
    /** @description criteria: their keys; values: by candidate, criterion and block of its ground. */
    Measured: { candidates: string[]; criteria: string[]; values: (number | null)[][][] }
    /**
     * @description The sheet as it is shown. whole: all of it, else view: what the writer sees of it, None while that is not known.
     *     ink: how often it changed.
     */
    MirrorPage: {
      ink: number
      name: string
      paper: components['schemas']['Paper']
      sheet_id: string
      view: components['schemas']['Numbers4'] | null
      whole: boolean
    }
    /** @description key, name: of the candidate now. */
    MovedItem: {
      before: number
      better: boolean
      by: number
      candidate: number
      criterion: string
      high: number
      key: string
      low: number
      name: string
      now: number
      sure: boolean
    }
    /** @description same: how many readings are what they were; changed: what is not as it was then besides, in words. */
    MovedSince: { changed: string[]; moved: components['schemas']['MovedItem'][]; same: number }
    MustBody: { bound: number; criterion: string }
    /** @description A direction one seems to go by: words of that end of it; errors: how many standard errors sure. */
    Named: { errors: number; name: string; words: string }
    /** @description A paper of one's own. prints: what is printed on it, placed on that page; where it is repeated, on any. */
    NamedPaper: { name: string; paper: components['schemas']['Paper']; prints?: components['schemas']['Print'][] }
    /** @description Pens one press away for one sort of writing; plain: whether tuning shows the plain dials or every group. */
    NamedRoll: {
      name: string
      pen_ids: string[]
      /** @default false */
      plain: boolean
    }
    /**
     * @description What a pen does on the probes. Ratios are larger over smaller width: force_range from 10 to 90 % of the pen's own
     *     force span, light_answer over its lightest quarter, speed_range from 20 to 150 mm/s, direction_range over twelve
     *     directions, lean_range from 65 to 30 degrees. tone_range: opacity at firm over light. tips: the smaller of both
     *     ends' tips, tip_mm: the longer taper. rest_range: tone after resting a second over a tenth of one.
     */
    Nature: {
      cover: number
      direction_range: number
      force_range: number
      lean_range: number
      light_answer: number
      rest_range: number
      speed_range: number
      tip: number
      tip_mm: number
      tone_range: number
      width_mm: number
    }
    /**
     * @description A device of one's own: like a kept one, with the digitiser these strokes show, the screen that was seen, and what
     *     its data sheet states.
     */
    NewDevice: {
      ink: components['schemas']['InspectBody']
      like: string
      name: string
      /** @default null */
      screen: components['schemas']['SeenScreen'] | null
      /** @default 0 */
      stated_ms: number
    }
    /** @description saw: the device this was made from. */
    NewDeviceRecord: {
      device: components['schemas']['Device']
      /** @default null */
      saw: components['schemas']['Device'] | null
    }
    NewFelt: {
      device_id: string
      /** @default null */
      filmed: components['schemas']['Filmed'] | null
      hand_id: string
      recipe: components['schemas']['Recipe']
      turns: components['schemas']['Turn'][]
    }
    NewHand: { hand: components['schemas']['Hand']; id: string }
    /** @description saw: the hand this was made from. */
    NewHandRecord: {
      hand: components['schemas']['Hand']
      /** @default null */
      saw: components['schemas']['Hand'] | null
    }
    /**
     * @description sheet_id: on the writing of this sheet, as its hand wrote it on its device; simulated hands write otherwise.
     *     glass, tip: what it was written on and with, in the writer's words, for the report.
     */
    NewLineup: {
      candidates: components['schemas']['LineupCandidate'][]
      /** @default  */
      glass: string
      /** @default 1 */
      seed: number
      /** @default null */
      sheet_id: string | null
      /** @default  */
      tip: string
    }
    /** @description saw: the name it had when this was written. */
    NewName: {
      name: string
      /** @default null */
      saw: string | null
    }
    /** @description saw: the note there was when this was written. */
    NewNote: {
      note: string
      /** @default null */
      saw: string | null
    }
    /** @description A page after another one: empty, on paper like its own or on this, or a copy of it with its ink. */
    NewPage: {
      /** @default false */
      copy_ink: boolean
      id: string
      /** @default null */
      paper: components['schemas']['Paper'] | null
    }
    /** @description Pens to be judged blind, on the line of a sheet. */
    NewPairs: {
      /** @default me */
      judge: string
      pens: components['schemas']['PenAsked'][]
      /** @default 1 */
      seed: number
      sheet_id: string
    }
    NewPen: {
      id: string
      /** @default  */
      note: string
      /** @default true */
      on_roll: boolean
      recipe: components['schemas']['Recipe']
    }
    /** @description saw: the newest revision known; where there is a newer one by now, nothing is kept and it is told. */
    NewRevision: {
      /** @default  */
      note: string
      recipe: components['schemas']['Recipe']
      /** @default null */
      saw: number | null
    }
    /** @description A run to keep: which pen, for whose hand; draft: what the pen is, where it has changes not kept. */
    NewRun: {
      device_id: string
      /** @default null */
      draft: components['schemas']['Recipe'] | null
      /** @default null */
      filmed: components['schemas']['Filmed'] | null
      hand_id: string
      /** @default null */
      live: components['schemas']['Live'] | null
      pen_id: string
      revision: number
      /**
       * @description How fast the nib goes (mm/s)
       * @default 60
       */
      speed_mm_s: number
    }
    /** @description saw: the rules that were kept when these were made. */
    NewSetting: {
      device_id: string
      hand_id: string
      /** @default null */
      posture: components['schemas']['Posture'] | null
      rules: components['schemas']['Rules']
      /** @default null */
      saw: components['schemas']['Rules'] | null
    }
    /** @description paper: a record, or plain words like "ruled 7mm A5". */
    NewSheet: {
      device_id: string
      hand_id: string
      id: string
      /**
       * @default free
       * @enum {string}
       */
      kind: 'free' | 'test' | 'strip'
      name: string
      paper?: components['schemas']['Paper']
      pen_id: string
    }
    /**
     * @description revision: the pen's revision that wrote it; draft: what the pen was, where it wrote with changes not kept; layer:
     *     where it was written, the one in use where it is not said or gone.
     */
    NewStroke: {
      /** @default null */
      altitude: number[] | null
      /** @default null */
      azimuth: number[] | null
      /** @default null */
      begun_ms: number | null
      /** @default null */
      draft: components['schemas']['Recipe'] | null
      /** @default null */
      force: number[] | null
      id: string
      /** @default null */
      layer: string | null
      pen_id: string
      revision: number
      t_ms: number[]
      x_mm: number[]
      y_mm: number[]
    }
    /** @description Each is looked at by itself: one that cannot be kept does not keep the others from it. */
    NewStrokes: { strokes: components['schemas']['NewStroke'][] }
    /** @description What is to be written next, under which delay. */
    Next: {
      added_ms: number
      /** @enum {string} */
      kind: 'noticed' | 'disturbed' | 'catch'
      sentence: string
    }
    /** @description One note as a screen shows it; `more` is a smaller second line, empty where there is nothing to add. */
    Note: { attention: boolean; help: string; key: string; more: string; title: string; words: string }
    Numbers2: [number, number]
    Numbers4: [number, number, number, number]
    /**
     * @description now, found: what the rules of now and those found come to on own drills. helps: whether those found are better
     *     there, and worse in nothing; else they are the rules of now. bend: settings tried of which none beats another, as
     *     (gestures refused, palms let through), shares, rising. would_help: what else would, in words.
     */
    OnOwn: {
      bend: components['schemas']['Numbers2'][]
      found: components['schemas']['Outcome']
      helps: boolean
      now: components['schemas']['Outcome']
      would_help: string[]
    }
    /** @description A sheet on a device, toned so. panel, recipe: of the device and of the sheet's pen, as they are being changed. */
    OnPanel: {
      device_id: string
      /** @default null */
      panel: components['schemas']['Panel'] | null
      /** @default null */
      recipe: components['schemas']['Recipe'] | null
      sheet_id: string
      toning?: components['schemas']['Toning']
    }
    /** @description suits_mm: a spacing for these letters; None, as all that is read of letters, where there are too few. */
    OnPaper: {
      fill: number | null
      ink: number
      over_rules: number | null
      reach_mm: number | null
      rules: number
      slant_deg: number | null
      suits_mm: number | null
      x_height_mm: number | null
    }
    /** @description before, after: None where there is no text under the wash. */
    OnPrint: { after: number | null; before: number | null; colour: string; name: string }
    /** @description A file that was brought in. kind: png, jpeg or pdf; sizes_mm: width and height of each of its pages. */
    Original: { id: string; kind: string; name: string; sizes_mm: components['schemas']['Numbers2'][] }
    /**
     * @description A thing that would be otherwise. way: "comes back", "goes" or "is as it was then"; binned: it would lie in the
     *     bin.
     */
    Otherwise: { binned: boolean; id: string; kind: string; name: string; way: string }
    /**
     * @description What touches did that was not meant, and what was meant and refused. Palms are known by the truth; where it is
     *     not, whatever touches did counts as unwanted, and confusion (palms and fingers, refused and kept) is None.
     */
    Outcome: {
      added_delay_ms: number
      confusion: { [key: string]: number } | null
      gestures: number
      jiggle_mm: number
      late_marks: number
      lost_ink_mm: number
      page_shift_mm: number
      palms_kept: number
      refused_gestures: number
      stray_ink_mm: number
      stray_marks: number
      taps: number
      unreported_mm: number
      zoomed: number
    }
    /** @description The measured hand, its habits and what still differs. */
    OwnHand: {
      differs: components['schemas']['Differs'][]
      habits: components['schemas']['Habit'][]
      hand: components['schemas']['Hand']
    }
    /** @description A panel as a device of one's own, all else like another. */
    OwnPanel: {
      like: string
      name: string
      panel: components['schemas']['Panel']
      /** @default null */
      updates: components['schemas']['Updates'] | null
    }
    /** @description What a real hand did for one drill; enlarged: with the page enlarged first. */
    OwnPart: {
      drill: string
      /** @default false */
      enlarged: boolean
      stream: components['schemas']['StreamBody']
    }
    /** @description A criterion scored by hand: points by candidate, and why. */
    OwnScores: {
      name: string
      /** @default  */
      note: string
      points: { [key: string]: number }
    }
    Pace: {
      /**
       * Thinner with speed
       * @description 0 ignores speed; above 0 fast strokes are thinner, below 0 thicker
       * @default 0
       */
      exponent: number
      /**
       * Everyday speed
       * @description Speed at which the width is the body's width (mm/s)
       * @default 60
       */
      reference_mm_s: number
    }
    /** @description forced: how many go through ink, as no clear place was found. */
    PageCuts: { cuts: components['schemas']['Cut'][]; forced: number }
    /**
     * @description A part of a sheet, so many mm wide about a place of the page, and what is done after it is written. updates: how
     *     the panel changes its picture, as that is being changed.
     */
    PageFilmBody: {
      device_id: string
      /** @default 30 */
      frames_hz: number
      /** @default null */
      panel: components['schemas']['Panel'] | null
      /** @default null */
      recipe: components['schemas']['Recipe'] | null
      sheet_id: string
      /** @default nothing more */
      then: string
      toning?: components['schemas']['Toning']
      /** @default null */
      updates: components['schemas']['Updates'] | null
      /** @default 60 */
      width_mm: number
      x_mm: number
      y_mm: number
    }
    /** @description saw: the order there was when this was made. */
    PageOrder: {
      ids: string[]
      /** @default null */
      saw: string[] | null
    }
    /** @description binned: pages in the bin while others of their sheet are not. */
    Pages: { binned: components['schemas']['Sheet'][]; pages: components['schemas']['Sheet'][] }
    PairBin: { binned: boolean; device_id: string; hand_id: string }
    /** @description enough: answers after which something can usually be said; asked: how many were given. */
    PairShown: {
      asked: number
      enough: number
      one: components['schemas']['LineShown']
      other: components['schemas']['LineShown']
      repeats: number | null
    }
    /**
     * @description one, other: the writer's line twice, as data URLs; nothing says which pens they are. asked: how many pairs were
     *     answered before.
     */
    PairToJudge: { asked: number; id: string; one: string; other: string }
    /** @description run_id: a line-up the same pens were measured in, to be laid beside, ranked by these weights. */
    PairsAsked: {
      /** @default false */
      by_kind: boolean
      musts?: components['schemas']['MustBody'][]
      own?: components['schemas']['OwnScores'][]
      /** @default null */
      run_id: string | null
      weights?: { [key: string]: number }
    }
    /**
     * @description What one judge's answers say. pulled: one was always or never chosen, so that its strength is drawn to the
     *     middle; more: pairs until the first is told from the second, None for too many; agreement: mean Kendall tau of all
     *     judges of these pens, None for one alone; tau, rho: with the measured ranking; weights: of criteria these answers
     *     go by; words: the same in words.
     */
    PairsTold: {
      agreement: number | null
      at_random: boolean
      judge: string
      more: number | null
      others: string[]
      pens: components['schemas']['JudgedPen'][]
      pulled: boolean
      rho: number | null
      tau: number | null
      told: components['schemas']['Judge']
      weights: components['schemas']['Weight'][]
      words: string[]
    }
    /** @description The drills, those of the hard set with its digest, the rules as controls, and the table of grades. */
    PalmInfo: {
      controls: components['schemas']['Control'][]
      drills: components['schemas']['DrillItem'][]
      grades: components['schemas']['Grade'][]
      hard: components['schemas']['DrillItem'][]
      hard_digest: string
      off: components['schemas']['Rules']
    }
    /**
     * @description A run of the Palm trial. hand, device: their names. own: a real hand did it; hard: its drills are of the hard
     *     set. made_by: as of a lag run.
     */
    PalmRun: {
      created_at: string
      device: string
      grade: string
      hand: string
      hard: boolean
      id: string
      made_by: string
      own: boolean
      rules: components['schemas']['Rules']
      total: components['schemas']['Outcome']
    }
    PalmRuns: { runs: components['schemas']['PalmRun'][] }
    /**
     * @description Rules and posture of a hand on a device, and the engine's limits; kept is false where they are only what the
     *     hand's record says. told: how many decisions its writer knew better.
     */
    PalmSetting: {
      kept: boolean
      limits: components['schemas']['Limits']
      posture: components['schemas']['Posture'] | null
      rules: components['schemas']['Rules']
      told: number
      zone: components['schemas']['Zone']
    }
    Panel: {
      /**
       * Catch-up
       * @description E-ink: how long after the pen pauses all else follows (ms)
       * @default 0
       */
      catch_up_ms: number
      /**
       * Colour
       * @description Whether it shows colour
       * @default true
       */
      colour: boolean
      /**
       * Density of colour
       * @description E-ink: of the filter that makes its colours; 0 for every pixel (px/inch)
       * @default 0
       */
      colour_ppi: number
      /**
       * Contrast
       * @description Its white over its black, without glare (:1)
       * @default 1000
       */
      contrast: number
      /**
       * Fast pen path
       * @description E-ink: pen strokes appear at once in two tones
       * @default false
       */
      fast_pen: boolean
      /**
       * Fast path rate
       * @description How often the fast pen path may put ink down (Hz)
       * @default 85
       */
      fast_pen_hz: number
      /**
       * Greys
       * @description Distinct greys it can show (greys)
       * @default 256
       */
      greys: number
      /**
       * Height
       * @description Pixels down (px)
       * @default 1200
       */
      height_px: number
      /**
       * Density
       * @description Pixels an inch (px/inch)
       * @default 220
       */
      ppi: number
      /**
       * Reflects
       * @description Share of the room's light that comes back: from e-paper's white, else as glare
       * @default 0.03
       */
      reflects: number
      /**
       * Refresh
       * @description Full pictures a second (Hz)
       * @default 60
       */
      refresh_hz: number
      /**
       * Response
       * @description From a pixel's signal to its light; of e-paper its updates tell it (ms)
       * @default 8
       */
      response_ms: number
      /**
       * Technology
       * @description What makes its light: itself, or the room's
       * @default LCD
       * @enum {string}
       */
      technology: 'LCD' | 'OLED' | 'e-paper'
      /**
       * Vivid
       * @description E-ink: share of a colour's distance from grey its filter keeps
       * @default 1
       */
      vivid: number
      /**
       * White
       * @description Light that its white makes of itself; of e-paper, by its front light (cd/m²)
       * @default 400
       */
      white_cd_m2: number
      /**
       * Width
       * @description Pixels across (px)
       * @default 1920
       */
      width_px: number
    }
    /**
     * @description reading: what it is about, by its group and key. before, after: that reading now, and as it will be. recipe,
     *     toning: what to try, None where that stays as it is; surface: of the frame, "" where that stays.
     */
    PanelAdvice: {
      after: number
      before: number
      doing: string
      evidence: string
      reading: [string, string]
      recipe: components['schemas']['Recipe'] | null
      surface: string
      title: string
      toning: components['schemas']['Toning'] | null
    }
    /** @description frame: as it is on the screen now, None where it is on its e-ink surface. */
    PanelAdviceBody: {
      device_id: string
      /** @default null */
      frame: components['schemas']['FrameColours'] | null
      /** @default no glare */
      light: string
      /** @default null */
      panel: components['schemas']['Panel'] | null
      /** @default null */
      recipe: components['schemas']['Recipe'] | null
      sheet_id: string
      toning?: components['schemas']['Toning']
    }
    PanelAdviceReply: { advice: components['schemas']['PanelAdvice'][] }
    /** @description updates: left as they are where none are given; saw: the panel this was made from. */
    PanelChange: {
      panel: components['schemas']['Panel']
      /** @default null */
      saw: components['schemas']['Panel'] | null
      /** @default null */
      updates: components['schemas']['Updates'] | null
    }
    /**
     * @description reels: grey PNGs whose bytes, one after another, are what patches are cut from; channels: 1 or 3 bytes a pixel.
     *     seen, believed: what the writer sees and what the program believes is shown, patch by patch. waits: how long each
     *     pixel's last tone took to be there, in steps of wait_step_s. began_s: of each update that was begun, when. done_s:
     *     when something more is done after writing, None where nothing is. toned: how tones are mixed in time.
     */
    PanelFilm: {
      began_s: number[]
      believed: components['schemas']['Patch'][]
      channels: number
      done_s: number | null
      frames: number
      frames_hz: number
      ghosts: components['schemas']['Ghosts']
      height_px: number
      readings: components['schemas']['InTimeReadings']
      reels: string[]
      seen: components['schemas']['Patch'][]
      toned: string
      wait_step_s: number
      waits: components['schemas']['Patch']
      width_px: number
    }
    /** @description A pen that shall hold on all of these devices, each toned so; plain where no tonings are given. */
    PanelFitBody: {
      device_ids: string[]
      /** @default no glare */
      light: string
      recipe: components['schemas']['Recipe']
      source: components['schemas']['Source']
      /** @default [] */
      tonings: components['schemas']['Toning'][]
    }
    /**
     * @description What became of the ink: thinnest_px and thinnest_mm (5th percentile of width), hairline_share of the ink's length
     *     whose best contrast with the paper is under 3:1, darkest contrast reached, greys used, mean grey error 0..1 against
     *     the original.
     */
    PanelReadings: {
      best_contrast: number
      grey_error: number
      greys_used: number
      hairline_share: number
      thinnest_mm: number
      thinnest_px: number
    }
    /** @description All that is declared of panels, asked for by the station that shows them. */
    PanelWays: {
      film_then: string[]
      panel_fields: components['schemas']['Control'][]
      rooms: string[]
      shipped_devices: string[]
      toning_fields: components['schemas']['Control'][]
      updates_fields: components['schemas']['Control'][]
    }
    Paper: {
      /**
       * Top band
       * @description Free of ruling at the top; 0 for as much as stationery has (mm)
       * @default 0
       */
      band_mm: number
      /**
       * Paper colour
       * @description Colour of the sheet
       * @default #fffdf8
       */
      colour: string
      /**
       * Columns
       * @description Beside each other, of columns and frames
       * @default 1
       */
      columns: number
      /**
       * Endless
       * @description Grows downward as you write near its foot
       * @default false
       */
      endless: boolean
      /**
       * First column
       * @description Its width; 0 for as wide as the others (mm)
       * @default 0
       */
      first_mm: number
      /**
       * Height
       * @description Height of the sheet as it lies (mm)
       * @default 210
       */
      height_mm: number
      /**
       * Margin line
       * @description Distance of an upright margin line from the edge; 0 leaves it out (mm)
       * @default 0
       */
      margin_mm: number
      /**
       * Margin line at
       * @description Edge the margin line keeps to
       * @default left
       * @enum {string}
       */
      margin_side: 'left' | 'right' | 'both'
      /**
       * Page number
       * @description Where on the page it is printed, in the colour of the rules
       * @default none
       * @enum {string}
       */
      numbered: 'none' | 'foot' | 'outer foot' | 'head'
      /**
       * Rule colour
       * @description Colour of the ruling
       * @default #c9c3b6
       */
      rule_colour: string
      /**
       * Ruling
       * @description What is printed on the sheet to guide the hand
       * @default dotted
       * @enum {string}
       */
      ruling: 'blank' | 'ruled' | 'squared' | 'dotted' | 'staves' | 'isometric' | 'columns' | 'frames'
      /**
       * Spacing
       * @description Distance from rule to rule, dot to dot or stave line to line (mm)
       * @default 5
       */
      spacing_mm: number
      /**
       * Line weight
       * @description Thickness of rules, diameter of dots (mm)
       * @default 0.2
       */
      weight_mm: number
      /**
       * Width
       * @description Width of the sheet as it lies (mm)
       * @default 148
       */
      width_mm: number
    }
    /** @description The paper as it is, or as it may become. */
    PaperBody: { paper: components['schemas']['Paper'] }
    PaperFields: { paper_fields: components['schemas']['Control'][] }
    /** @description value: what was measured, None for what was scored by hand; points: 0 to 100; part: of the total. */
    Part: { criterion: string; part: number; points: number; value: number | null }
    /** @description A marked passage: the colour and name of its wash, and where it lies, mm. */
    Passage: { box_mm: components['schemas']['Numbers4']; colour: string; name: string; strokes: number }
    /** @description Pixels of one frame's part, row by row, from `offset` bytes of all reels on. */
    Patch: { frame: number; height: number; left: number; offset: number; top: number; width: number }
    PatchItem: {
      force: string
      image: string
      lean: string
      raggedness_mm: number | null
      tone: number
      unevenness: number
    }
    /** @description A pen as kept, at one revision. roll_place: 0..9 on the roll, or None. newest: its latest revision. */
    Pen: {
      binned: boolean
      created_at: string
      id: string
      newest: number
      note: string
      recipe: components['schemas']['Recipe']
      revision: number
      roll_place: number | null
    }
    /** @description revision: the newest where none is named. */
    PenAsked: {
      pen_id: string
      /** @default null */
      revision: number | null
    }
    PenList: { pens: components['schemas']['Pen'][] }
    /**
     * @description Strokes of a sheet, and the pen that shall draw them; revision: a kept one, or one that `was` named. draft: what
     *     the pen is instead, where it writes with changes not kept. ids: all strokes of this pen where none are named.
     */
    PenOfInk: {
      /** @default null */
      draft: components['schemas']['Recipe'] | null
      /** @default null */
      ids: string[] | null
      pen_id: string
      revision: number
    }
    /** @description A recipe on some ink. */
    PenOn: { recipe: components['schemas']['Recipe']; source: components['schemas']['Source'] }
    /** @description What a panel leaves of a sheet's pen, and of all that wrote on it. */
    PenOnPanel: { alike: number; edge_px: number; needed_mm: number | null; pens: number }
    /**
     * @description Tables of ln width over force, ln speed and start distance; opacity over force; aspect over altitude; the filter.
     *
     *     press, press_share (what the press chart draws), opacity_over_force: FORCE_STEPS entries over force 0..1. pace: its
     *     first and last value over ln(v + dot_speed_mm_s), which it is linear in, from speed 0 to fastest_mm_s. landing_mm_s:
     *     the speed a stroke is taken to have until its second sample. start:
     *     TAPER_STEPS entries over 0..start_mm. aspect: ALTITUDE_STEPS over 0..pi/2. spray: dose a second over the squared
     *     distance from the middle (0) to the edge (1). puff_s: seconds of flow a spray lays as it lands. even: the share of
     *     its tone that it does not lay twice. hard_edges: a pixel is inked or it is not.
     */
    PenPlan: {
      ahead: components['schemas']['AheadPlan'] | null
      angle: number | null
      aspect: number[]
      blend: string
      colour: string
      dot_speed_mm_s: number
      even: number
      fastest_mm_s: number
      grain: components['schemas']['GrainPlan'] | null
      hard_edges: boolean
      hollow: components['schemas']['HollowPlan'] | null
      landing_mm_s: number
      ln_width: number
      name: string
      opacity: number
      opacity_over_force: number[]
      pace: components['schemas']['Numbers2']
      pattern_mm: number[]
      place: string
      pool: components['schemas']['PoolPlan'] | null
      press: number[]
      press_share: number[]
      puff_s: number
      shape: string
      speed_tau_ms: number
      spray: number[] | null
      start: number[]
      start_mm: number
      steady: components['schemas']['SteadyPlan']
      straight: components['schemas']['StraightPlan'] | null
      wet: components['schemas']['WetPlan'] | null
      width_mm: number
    }
    /** @description own: small sheets, each with the ink of one. */
    Pieces: { own: components['schemas']['Sheet'][]; starters: components['schemas']['Starter'][] }
    /**
     * @description place: from 1, 0 for who is out; total with its interval; tied: with the one above, so far as can be told; same:
     *     nothing told of them differs. out: the must it missed.
     */
    Place: {
      candidate: string
      cost: string
      crossing: components['schemas']['Crossing'] | null
      high: number
      lift: components['schemas']['Lift'] | null
      low: number
      out: string
      place: number
      same: boolean
      strength: string
      tied: boolean
      told: components['schemas']['Part'][]
      total: number
      weakness: string
    }
    /**
     * @description placement: (a, b, c, d, e, f, g, h), a place (x, y) of the page goes to (a x + c y + e) / w, (b x + d y + f) / w
     *     with w = g x + h y + 1. wider: widths grow with the ink. copy_ink: the ink stays where it is too; it may then be in
     *     the bin. to_sheet: it goes onto another sheet.
     */
    PlaceInk: {
      /** @default false */
      copy_ink: boolean
      ids: string[]
      placement: [number, number, number, number, number, number, number, number]
      /** @default null */
      to_sheet: string | null
      /** @default true */
      wider: boolean
    }
    /** @description strokes: the ink where it lies now. */
    Placed: {
      away: string[]
      back: string[]
      box_mm: components['schemas']['Numbers4'] | null
      sheet: components['schemas']['Sheet']
      strokes: components['schemas']['StrokeMet'][]
    }
    PlanBody: {
      /** @default null */
      paper: components['schemas']['Paper'] | null
      /** @default #ffffff */
      paper_colour: string
      /** @default false */
      plain: boolean
      recipe: components['schemas']['Recipe']
    }
    /**
     * @description One joint setting: a rule at a value, the others as recommended, and what it misses, refuses and delays (shares,
     *     ms).
     */
    Point: { delay_ms: number; gestures_refused: number; palms_kept: number; rule: string; value: number }
    /** @description Opacity lost away from where the pen lands, and how far from there. */
    PoolPlan: { loss: number; reach_mm: number }
    Posture: {
      /**
       * Pen points
       * @description Where the pen's top points; none where no tilt came (deg)
       * @default null
       */
      azimuth_deg: number | null
      /**
       * Contacts
       * @description How many contacts were read (contacts)
       * @default 0
       */
      contacts: number
      /**
       * From tilt
       * @description Only the tilt told the side
       * @default false
       */
      from_tilt: boolean
      /**
       * Comes from
       * @description From where the hand comes to the line
       * @enum {string}
       */
      rest: 'below' | 'side' | 'above'
      /**
       * Side
       * @description Which hand writes
       * @enum {string}
       */
      side: 'left' | 'right'
      /**
       * Words
       * @description All of it in a sentence
       * @default As you say.
       */
      words: string
      zone: components['schemas']['Zone']
    }
    /**
     * @description A line written with the hand down, by a real hand (stream, with the tilt's azimuths) or the simulated one;
     *     corrected in words where given.
     */
    PostureBody: {
      /** @default [] */
      azimuths_deg: number[]
      /** @default null */
      device_id: string | null
      /** @default null */
      hand_id: string | null
      /** @default null */
      rest: ('below' | 'side' | 'above') | null
      /** @default 1 */
      seed: number
      /** @default null */
      side: ('left' | 'right') | null
      /** @default null */
      stream: components['schemas']['StreamBody'] | null
    }
    /**
     * @description recipe: the pen liked best; image: the line in it, and before: as it was; sure: the chance that it is liked more
     *     than where the search began; consistent: share of questions asked twice that were answered alike.
     */
    PreferredPen: {
      asked_twice: number
      before: string
      consistent: number | null
      goes_by: components['schemas']['Named'][]
      image: string
      recipe: components['schemas']['Recipe']
      sure: number
      words: string
    }
    Press: {
      /**
       * Ceiling
       * @description Force above this writes the thickest line (of full force)
       * @default 0.95
       */
      ceiling: number
      /**
       * Floor
       * @description Force below this writes the thinnest line (of full force)
       * @default 0.02
       */
      floor: number
      /**
       * Press acts
       * @description Off, force changes nothing and the other settings wait
       * @default true
       */
      on: boolean
      /**
       * Faint to full
       * @description How many times more opaque full force writes than the lightest; 1 keeps the opacity (x)
       * @default 1
       */
      opacity_range: number
      /**
       * Curve
       * @description Points the press curve runs through, from [0, 0] to [1, 1]
       * @default [
       *       [
       *         0,
       *         0
       *       ],
       *       [
       *         1,
       *         1
       *       ]
       *     ]
       */
      points: [number, number][]
      /**
       * Thin to thick
       * @description How many times wider full force writes than the lightest; 1 keeps the width (x)
       * @default 1
       */
      range: number
    }
    /** @description Shares of the pen's range and of samples, and the thin-thick ratio between the 5th and 95th percentile of P. */
    PressUse: { ceiling_share: number; floor_share: number; range_used: number; width_ratio: number }
    Preview: {
      /** @default 360 */
      height_px: number
      recipe: components['schemas']['Recipe']
      source: components['schemas']['Source']
      /** @default 1200 */
      width_px: number
    }
    /**
     * @description image: a data URL, see-through, of the inked part of the picture, whose corner lies at left_px, top_px; it is
     *     width_px wide.
     *
     *     box_mm: the part of the page the whole picture shows; scale: its pixels a millimetre.
     */
    PreviewReply: {
      box_mm: components['schemas']['Numbers4']
      height_px: number
      image: string
      left_px: number
      scale: number
      top_px: number
      width_px: number
    }
    Print: {
      /**
       * Cut off below
       * @description Share of the picture as it came
       * @default 0
       */
      crop_bottom: number
      /**
       * Cut off left
       * @description Share of the picture as it came
       * @default 0
       */
      crop_left: number
      /**
       * Cut off right
       * @description Share of the picture as it came
       * @default 0
       */
      crop_right: number
      /**
       * Cut off at the top
       * @description Share of the picture as it came
       * @default 0
       */
      crop_top: number
      /**
       * Faded
       * @description How far it fades into the paper, so that ink stands out
       * @default 0
       */
      dim: number
      /**
       * File
       * @description What was brought in
       * @default file
       */
      file: string
      /**
       * Page
       * @description Of the document; 1 for a picture
       * @default 1
       */
      file_page: number
      /**
       * Grey
       * @description Shown without its colours
       * @default false
       */
      grey: boolean
      /**
       * Height
       * @description As it lies, of what is not cut off (mm)
       * @default 100
       */
      height_mm: number
      /**
       * Id
       * @description By which it is named
       * @default print
       */
      id: string
      /**
       * From the left
       * @description Where its left edge lies (mm)
       * @default 0
       */
      left_mm: number
      /**
       * Quarter turns
       * @description Clockwise, from how it came
       * @default 0
       */
      quarter_turns: number
      /**
       * Repeated
       * @description Over the whole page, at its size, as a paper's pattern
       * @default false
       */
      tiled: boolean
      /**
       * From the top
       * @description Where its upper edge lies (mm)
       * @default 0
       */
      top_mm: number
      /**
       * Width
       * @description As it lies, of what is not cut off (mm)
       * @default 100
       */
      width_mm: number
    }
    /** @description A line of a document's outline, how deep it lies, and the page of this sheet it names. */
    PrintedHeading: { depth: number; page: number; page_id: string; title: string }
    /** @description Where a link of a page's print leads: an address, or a page of this sheet. */
    PrintedLink: { address: string; page: number; page_id: string }
    /** @description links: of this page, each place once; outline: of the documents that lie on the sheet's pages. */
    PrintedLinks: { links: components['schemas']['PrintedLink'][]; outline: components['schemas']['PrintedHeading'][] }
    /** @description saw: the version of the page these were laid on; carries: ink that lies on a print goes with it. */
    Prints: {
      /** @default false */
      carries: boolean
      prints: components['schemas']['Print'][]
      /** @default null */
      saw: number | null
    }
    PrintsRead: {
      files: components['schemas']['Original'][]
      print_fields: components['schemas']['Control'][]
      read: components['schemas']['OnPrint'][]
    }
    PrintsStep: { prints: components['schemas']['Prints'] }
    /** @description One thing to write: its name, what to do in a few words, and its box (left, top, right, bottom) in mm. */
    Prompt: { ask: string; box_mm: components['schemas']['Numbers4']; name: string }
    /** @description A sheet on a device in the light of a room. */
    ProofBody: {
      device_id: string
      /** @default no glare */
      light: string
      /** @default null */
      panel: components['schemas']['Panel'] | null
      /** @default null */
      recipe: components['schemas']['Recipe'] | null
      sheet_id: string
      toning?: components['schemas']['Toning']
    }
    /**
     * @description pen: what the panel leaves of the sheet's pen and of all that wrote on it; alike: names of those it shows alike.
     *     white_cd_m2: how light the panel's white is in that light, None without one. broken: ways in mm, x and y by turns,
     *     along which ink may vanish. layers: which of the sheet's layers are shown, and which are not.
     */
    ProofReply: {
      alike: [string, string][]
      broken: number[][]
      greys: number
      height_px: number
      image: string
      layers: string
      pen: components['schemas']['PenOnPanel']
      readings: components['schemas']['PanelReadings']
      white_cd_m2: number | null
      width_px: number
    }
    /** @description Replacements, the conditions with them, and whether all pass. */
    Proposal: {
      conditions: components['schemas']['Condition'][]
      passes: boolean
      replacements: components['schemas']['Replacement'][]
    }
    /** @description x_mm, y_mm: where its middle goes; draft: what the sheet's pen is, where it writes with changes not kept. */
    PutStarter: {
      /** @default null */
      draft: components['schemas']['Recipe'] | null
      name: string
      /** @default 1 */
      scale: number
      x_mm: number
      y_mm: number
    }
    /** @description weights: by criterion, those of one's own too; by_kind: a ranking for each kind of pen. */
    RankBody: {
      /** @default false */
      by_kind: boolean
      musts?: components['schemas']['MustBody'][]
      own?: components['schemas']['OwnScores'][]
      weights: { [key: string]: number }
    }
    /**
     * @description aside: criteria with weight that do not count, as they cannot be told of these candidates. blocks: how many the
     *     interval rests on.
     */
    Ranking: { aside: { [key: string]: string[] }; blocks: number; places: components['schemas']['Place'][] }
    Rankings: { rankings: components['schemas']['GroupRanking'][] }
    /**
     * @description readings: None where there is no ink. notes: the same in words. anchors: where on the page they can be seen.
     *     of: which ink this speaks of, by pen. traces: names the strokes that were read: readings of the same strokes can be
     *     compared. absent: channels that none of them carries. bare: strokes of the sheet that their pens cannot draw, shown
     *     as bare paths. plain: what the ink shows, in whole sentences. layers: on which of the sheet's layers it was read;
     *     what is hidden never is.
     */
    ReadReply: {
      absent: string[]
      anchors: { [key: string]: components['schemas']['Numbers2'][] }
      bare: number
      layers: string
      notes: components['schemas']['Note'][]
      of: components['schemas']['InkShare'][]
      plain: string[]
      readings: components['schemas']['Readings'] | null
      strokes: number
      traces: string
    }
    /**
     * @description digits: decimals said, None for as many as the size deserves. attention: the bound from which the reading
     *     deserves attention, on its worse side; None where there is none. of_the_hand: no pen can change it.
     */
    Reading: {
      attention: number | null
      better: string
      digits: number | null
      help: string
      label: string
      of_the_hand: boolean
      unit: string
    }
    /**
     * @description A pen on some strokes; what each reading means stands beside it.
     *
     *     Widths are arc-length-weighted percentiles over the settled ink, force percentiles are over samples, tips and tapers
     *     medians over strokes; tapers of strokes no longer than both are left out. What is said of
     *     force is None where no stroke carries any.
     */
    Readings: {
      ceiling_share: number | null
      corner_loss_mm: number
      device_noise_mm: number
      drag_ms: number
      duration_s: number
      effort: number
      end_tip: number
      floor_share: number | null
      force_p05: number | null
      force_p50: number | null
      force_p95: number | null
      frechet_mm: number
      gaps: number
      inside_share: number | null
      length_mm: number
      max_taper_slope: number
      nib_widths: number | null
      open_share: number | null
      press_steps: number
      range_ratio: number
      report_hz: number
      samples: number
      shake_left: number
      start_tip: number
      taper_end_mm: number
      taper_start_mm: number
      trail_mm: number
      width_p05_mm: number
      width_p50_mm: number
      width_p95_mm: number
      wobble_high_mm: number
      wobble_hz: number | null
      wobble_in_mm: number | null
      wobble_low_mm: number
      wobble_out_mm: number | null
    }
    /** @description What would be lost without one rule of the recommended ones. */
    Reason: { rule: string; value: number; words: string }
    /** gray-quill/pen@1 */
    Recipe: {
      /**
       * @default { *       "colour": "#20242b",
       *       "hollow": { *         "fill": "#ffffff",
       *         "fill_opacity": 0,
       *         "on": false,
       *         "wall_mm": 0.15
       *       },
       *       "line": { *         "pattern": "solid",
       *         "scale": 1
       *       },
       *       "opacity": 1,
       *       "width_mm": 0.5
       *     }
       */
      body: components['schemas']['Body']
      /**
       * @default { *       "ease": 0.6,
       *       "end_mm": 0,
       *       "end_tip": 1,
       *       "end_widths": 0,
       *       "start_mm": 0,
       *       "start_tip": 1,
       *       "start_widths": 0
       *     }
       */
      ends: components['schemas']['Ends']
      /** @constant */
      format?: 'gray-quill/pen@1'
      /**
       * Kind
       * @description What the pen sets out to be
       * @default ballpoint
       * @enum {string}
       */
      kind: 'ballpoint' | 'fountain' | 'brush' | 'flat nib' | 'pencil' | 'marker' | 'highlighter' | 'spray'
      /**
       * @default { *       "from_deg": 60,
       *       "side_mm": 0,
       *       "to_deg": 25
       *     }
       */
      lean: components['schemas']['Lean']
      /**
       * Name
       * @description What the pen is called
       * @default Untitled pen
       */
      name: string
      /**
       * @default { *       "exponent": 0,
       *       "reference_mm_s": 60
       *     }
       */
      pace: components['schemas']['Pace']
      /**
       * @default { *       "ceiling": 0.95,
       *       "floor": 0.02,
       *       "on": true,
       *       "opacity_range": 1,
       *       "points": [
       *         [
       *           0,
       *           0
       *         ],
       *         [
       *           1,
       *           1
       *         ]
       *       ],
       *       "range": 1
       *     }
       */
      press: components['schemas']['Press']
      /**
       * @default { *       "ahead_ms": 0,
       *       "amount": 0,
       *       "beta": 0.05,
       *       "d_cutoff_hz": 5,
       *       "method": "none"
       *     }
       */
      steady: components['schemas']['Steady']
      /**
       * @default { *       "bristles": 0,
       *       "crisp": true,
       *       "crumbs": 0,
       *       "depth": 0.85,
       *       "grade": "HB",
       *       "grain": "none",
       *       "own": "",
       *       "scale_mm": 0.4,
       *       "smear": 0
       *     }
       */
      tooth: components['schemas']['Tooth']
      /**
       * @default { *       "blend": "normal",
       *       "build_up": false,
       *       "flow": 2.5,
       *       "hold_straight": false,
       *       "place": "over",
       *       "pool": 0,
       *       "straight_to": "its own line",
       *       "straighten": 0,
       *       "streaks": 1,
       *       "tip": { *         "angle_deg": 40,
       *         "aspect": 5,
       *         "shape": "round"
       *       },
       *       "wet_edge": 0
       *     }
       */
      wash: components['schemas']['Wash']
    }
    /** @description Strokes of a sheet, each of its own pen, that shall have this colour. */
    Recolour: { colour: string; ids: string[] }
    /**
     * @description rules, why each is there, what to expect of them and of no rules at all, every rule's own curve, and the joint
     *     sweep: of own drills where there are any. on_own: before and after on these.
     */
    Recommended: {
      curves: components['schemas']['Curve'][]
      expected: components['schemas']['Outcome']
      on_own: components['schemas']['OnOwn'] | null
      points: components['schemas']['Point'][]
      reasons: components['schemas']['Reason'][]
      rules: components['schemas']['Rules']
      without: components['schemas']['Outcome']
    }
    /** @description place: which wash of the set. colour: what its body colour should be instead. */
    Replacement: { colour: string; place: number }
    Replay: { lasts_s: number; strokes: components['schemas']['Coming'][] }
    /**
     * @description verdict: the writer's own, in words; families: that of each kind of pen; conditions: what else was the same for
     *     all, or not; form: one HTML file, PDF, or every reading as a table.
     */
    ReportBody: {
      /** @default false */
      by_kind: boolean
      conditions?: string[]
      families?: { [key: string]: string }
      /**
       * @default html
       * @enum {string}
       */
      form: 'html' | 'pdf' | 'csv'
      musts?: components['schemas']['MustBody'][]
      own?: components['schemas']['OwnScores'][]
      /** @default  */
      verdict: string
      weights: { [key: string]: number }
    }
    /** @description left_out: candidates that cannot be measured again, and why; asked: the task that measures the others. */
    Retest: { asked: components['schemas']['JobItem']; left_out: string[] }
    /** @description A pen as it was kept once; changes: since the revision before. */
    Revision: { changes: components['schemas']['FieldChange'][]; pen: components['schemas']['Pen'] }
    /** @description saw: the pens that were on the roll when this was made. */
    Roll: {
      pen_ids: string[]
      /** @default null */
      saw: string[] | null
    }
    /**
     * @description open: whether others on the network can come. way_in: address of the page that helps a screen in; link: the
     *     address that lets one screen in, once; key: what else does, typed there; codes: both addresses as pictures of QR
     *     codes (ISO/IEC 18004). fingerprint: SHA-256 of the certificate that screens are to trust; "" without TLS.
     */
    RoomReply: {
      fingerprint: string
      key: string
      link: string
      link_code: string
      open: boolean
      screens: components['schemas']['Screen'][]
      tls: boolean
      way_in: string
      way_in_code: string
    }
    RubWay: {
      /**
       * @default all
       * @enum {string}
       */
      layers: 'all' | 'this'
      /** @default false */
      locked_too: boolean
      /**
       * @default [
       *       "ink",
       *       "washes",
       *       "figures",
       *       "fills"
       *     ]
       */
      of: ('ink' | 'washes' | 'figures' | 'fills')[]
      radius_mm: number
      /**
       * @default rubbed
       * @enum {string}
       */
      takes: 'rubbed' | 'strokes' | 'ringed'
      way: [number, number][]
    }
    /** @description away: the strokes that went; back: what is left of them. Swapping the two takes it back. */
    Rubbed: {
      away: string[]
      back: string[]
      box_mm: components['schemas']['Numbers4'] | null
      sheet: components['schemas']['Sheet']
    }
    Rules: {
      /**
       * Lock after the nib
       * @description Refuse what lands while the nib is seen and this long after (ms)
       * @default 0
       */
      after_ms: number
      /**
       * Lock before the nib
       * @description Refuse what landed up to this long before the nib is seen (ms)
       * @default 0
       */
      before_ms: number
      /**
       * Crowd
       * @description Refuse contacts that are this many within the crowd's reach; 0 counts none (contacts)
       * @default 0
       */
      crowd_count: number
      /**
       * Crowd's reach
       * @description How near each other contacts of a crowd lie (mm)
       * @default 30
       */
      crowd_mm: number
      /**
       * Edge margin
       * @description Refuse what lands this near the screen's edge (mm)
       * @default 0
       */
      edge_mm: number
      /**
       * Finger ink
       * @description One finger writes instead of moving the page
       * @default false
       */
      finger_ink: boolean
      /**
       * Nib's jump
       * @description A nib that jumps this far between two reports was a palm before: that ink goes; 0 trusts every report (mm)
       * @default 0
       */
      jump_mm: number
      /**
       * Hardly strayed
       * @description What strays less than this lies still; three times this inside the resting zone (mm)
       * @default 3
       */
      lie_mm: number
      /**
       * Lies still
       * @description Refuse what has hardly strayed this long after landing; 0 lets it lie (ms)
       * @default 0
       */
      lie_ms: number
      /**
       * Looks like a hand
       * @description Refuse what is a hand with this chance by its look; while it is likelier than not it waits; 0 does not look
       * @default 0
       */
      likely: number
      /**
       * Page lock
       * @description Fingers never move or zoom the page
       * @default false
       */
      page_lock: boolean
      /**
       * Reach of the locks
       * @description Both locks hold only this near the nib (mm)
       * @default 400
       */
      radius_mm: number
      /**
       * Largest finger
       * @description Refuse contacts longer than this; 0 looks at no size (mm)
       * @default 0
       */
      size_mm: number
      /**
       * Page stands still
       * @description The page does not move while the nib writes
       * @default false
       */
      still: boolean
      /**
       * Take back
       * @description Undo marks and page shift of a contact refused within this time of landing (ms)
       * @default 0
       */
      take_back_ms: number
      /**
       * Decide later
       * @description Let a contact do nothing until it is this old (ms)
       * @default 0
       */
      wait_ms: number
      /**
       * Resting zone
       * @description Refuse what lies in the hand's resting place, this many times as large; 0 looks at none
       * @default 0
       */
      zone: number
      /**
       * Zone lasts
       * @description How long after the nib was seen the resting zone holds (ms)
       * @default 1000
       */
      zone_ms: number
    }
    /**
     * @description Drills of the simulated hand by name and seed, or what a real hand did, each once or several times; judged with
     *     these rules. hard: of the hard set. zone: None for the pair's own.
     */
    RunBody: {
      device_id: string
      /** @default [] */
      drills: string[]
      hand_id: string
      /** @default false */
      hard: boolean
      /** @default [] */
      own: components['schemas']['OwnPart'][]
      rules: components['schemas']['Rules']
      /** @default 1 */
      seed: number
      /** @default null */
      zone: components['schemas']['Zone'] | null
    }
    /** @description A browser that is in; here: it is the one that asks. */
    Screen: { browser: components['schemas']['Browser']; here: boolean }
    /** @description What was written on the device itself, and what the browser told of it beside positions. */
    Seen: {
      /** @default null */
      contact_size: boolean | null
      /** @default 60 */
      frame_hz: number
      /** @default null */
      hover: boolean | null
      strokes: components['schemas']['StrokeColumns'][]
    }
    /** @description What a browser knows of its screen, what its user said of it, and what straight lines showed of its digitiser. */
    SeenScreen: {
      by_eye?: components['schemas']['ByEye']
      colour: boolean
      greys: number
      height_px: number
      /** @enum {string} */
      kind: 'tablet' | 'laptop' | 'e-paper'
      ppi: number
      refresh_hz: number
      /** @default 0 */
      wave_mm: number
      /** @default 6 */
      wave_period_mm: number
      width_px: number
    }
    /**
     * @description takes: of a ring, the words it holds by the larger part of their ink, what it touches, or only what lies wholly
     *     inside; words: whole words of what is met; locked_too: also what is locked.
     */
    SelectBody: {
      /** @default false */
      locked_too: boolean
      /**
       * @default held
       * @enum {string}
       */
      takes: 'held' | 'touched' | 'inside'
      way: [number, number][]
      /** @default false */
      words: boolean
    }
    /** @description Washes to tell apart on one paper, on the panels of these devices. */
    SetBody: {
      device_ids: string[]
      ink: components['schemas']['Recipe']
      paper: string
      washes: components['schemas']['Recipe'][]
    }
    /** @description proposal: colours that do better, and the conditions with them; None when the set passes. */
    SetReply: { conditions: components['schemas']['Condition'][]; proposal: components['schemas']['Proposal'] | null }
    /**
     * @description A wash that works: what to set, the contrast of the worst words after PASSES passes, and its visibility after
     *     one; lifts: by how much that one makes the paper lighter, L*.
     */
    Setting: {
      blend: string
      colour: string
      contrast: number
      lifts: number
      opacity: number
      place: string
      visibility: number
    }
    /** @description Done as one, in this order. */
    SeveralSteps: {
      several: (
        | components['schemas']['StrokesBin']
        | components['schemas']['InkAgain']
        | components['schemas']['SwapInk']
        | components['schemas']['LayersStep']
        | components['schemas']['ArrangeStep']
        | components['schemas']['PrintsStep']
        | components['schemas']['CoversStep']
      )[]
    }
    /** @description A recipe with the hand, device and paper of a sheet; own_sheet_id: a test sheet whose shading is measured too. */
    ShadingBody: {
      /** @default null */
      own_sheet_id: string | null
      recipe: components['schemas']['Recipe']
      sheet_id: string
    }
    /**
     * @description grades: empty for pens without tooth. grit: of a crisp patch on the device's panel; crispness: what exports keep
     *     of it.
     */
    ShadingReply: {
      crispness: components['schemas']['Crispness'][]
      device: string
      grades: components['schemas']['GradeItem'][]
      grit: number
      patches: components['schemas']['PatchItem'][]
      text: components['schemas']['TextItem'][]
    }
    /** @description One stage's mean, deviation and share of the mean total. */
    Share: { mean_ms: number; name: string; sd_ms: number; share: number }
    /**
     * @description theirs: on the owner's line as it was told; mine: on one's own; differs: readings of the two lines that differ,
     *     one theirs, other mine. cannot: what one's own device cannot do of it; could_not: what theirs could not.
     */
    SharedLook: {
      cannot: string[]
      could_not: string[]
      device: string
      differs: components['schemas']['Difference'][]
      fitted: boolean
      hand: string
      kind: string
      mine: components['schemas']['LineSeen']
      name: string
      revisions: number
      standard: components['schemas']['StandardSeen'][]
      swatch: string
      theirs: components['schemas']['LineSeen']
    }
    /**
     * @description A page of a sheet as kept, which most often is its only one; strokes: how many lie on it; paper_words: its paper
     *     in the sentence's words; paper_is_dark: light ink reads better on it; version: counts its changes; ink: counts the
     *     changes of its ink; layers: from below; layer: the one that is written on; piece: it is no sheet of its own but ink
     *     kept for reuse. sheaf: what its pages have in common, "" as it is added for one of its own; page: which it is, from
     *     1; pages: how many there are; bookmark: in words, "" for none; prints: pictures and documents under its ink, the
     *     lowest first; covers: what covers its ink until it is lifted, in cover_colour.
     */
    Sheet: {
      binned: boolean
      bookmark: string
      cover_colour: string
      covers: components['schemas']['Cover'][]
      created_at: string
      device_id: string
      hand_id: string
      id: string
      ink: number
      kind: string
      layer: string
      layers: components['schemas']['Layer'][]
      name: string
      note: string
      page: number
      pages: number
      paper: components['schemas']['Paper']
      paper_is_dark: boolean
      paper_words: string
      pen_id: string
      piece: boolean
      prints: components['schemas']['Print'][]
      prompts: string | null
      sheaf: string
      strokes: number
      version: number
    }
    /** @description passed_over: what of the file was not understood, in words. */
    SheetCame: { passed_over: string[]; sheet: components['schemas']['Sheet'] }
    /** @description saw: the version of the sheet the change was made from; a change from an older sight is told what is there. */
    SheetChange: {
      /** @default null */
      bookmark: string | null
      /** @default null */
      device_id: string | null
      /** @default null */
      hand_id: string | null
      /** @default null */
      name: string | null
      /** @default null */
      note: string | null
      /** @default null */
      paper: components['schemas']['Paper'] | null
      /** @default null */
      pen_id: string | null
      /**
       * @description What is printed on that paper, in place of what was
       * @default null
       */
      prints: components['schemas']['Print'][] | null
      /**
       * @description Which pages a paper is for: this one, those from here on, or all
       * @default page
       * @enum {string}
       */
      reach: 'page' | 'on' | 'all'
      /** @default null */
      saw: number | null
    }
    SheetDetail: {
      colours: string[]
      prompts: components['schemas']['Prompt'][]
      sheet: components['schemas']['Sheet']
      stroke_ids: string[]
    }
    /**
     * @description past: what takes back the last changes, the latest last; future: what makes those taken back again; count: how
     *     often they changed.
     */
    SheetSteps: {
      count: number
      future: (
        | components['schemas']['StrokesBin']
        | components['schemas']['InkAgain']
        | components['schemas']['SwapInk']
        | components['schemas']['LayersStep']
        | components['schemas']['ArrangeStep']
        | components['schemas']['PrintsStep']
        | components['schemas']['CoversStep']
        | components['schemas']['SeveralSteps']
      )[]
      past: (
        | components['schemas']['StrokesBin']
        | components['schemas']['InkAgain']
        | components['schemas']['SwapInk']
        | components['schemas']['LayersStep']
        | components['schemas']['ArrangeStep']
        | components['schemas']['PrintsStep']
        | components['schemas']['CoversStep']
        | components['schemas']['SeveralSteps']
      )[]
    }
    SheetsInBin: { sheets: components['schemas']['Sheet'][] }
    /** @description Which sheet to show; whole: the whole page, else what the writer sees of it. */
    ShowSheet: {
      sheet_id: string
      /** @default false */
      whole: boolean
    }
    /** @description A kept pen and the contrast of its ink with a paper. */
    Shown: { contrast: number; name: string; pen_id: string }
    ShownBody: { recipe: components['schemas']['Recipe']; shown: components['schemas']['ShownStroke'][] }
    /**
     * @description Reports of a stroke, [s, x mm, y mm, force, altitude, azimuth], since the last ones; number: which stroke; pen:
     *     of those brought before; made_ms: when the last one was made, on the server's clock.
     */
    ShownInk: { made_ms: number; number: number; pen: string; samples: number[][] }
    /** @description What the one who writes did since the last message. lifted, kept, dropped: numbers of strokes. */
    ShownLines: {
      dropped?: number[]
      ink?: components['schemas']['ShownInk'][]
      kept?: number[]
      lifted?: number[]
      pens?: { [key: string]: components['schemas']['Recipe'] }
      /** @default false */
      plain: boolean
      /** @default null */
      point: components['schemas']['ShownPoint'] | null
      /** @default null */
      view: components['schemas']['Numbers4'] | null
    }
    /** @description A pointer that fades: where it went since, mm, whether the hand holds it there still, and how it looks. */
    ShownPoint: {
      at: components['schemas']['Numbers2'][]
      colour: string
      dot: boolean
      down: boolean
      fades_s: number
      size_mm: number
    }
    /** @description guessed: None where the browser guesses nothing. */
    ShownReply: { ahead: components['schemas']['Ahead']; guessed: components['schemas']['Guessed'] | null }
    /**
     * @description A stroke, and the frames in which its ink was shown: when, on the stroke's clock, and where the ink ended in each
     *     without and with what look-ahead draws. guess_: what the browser guessed of it, after which report and for when.
     */
    ShownStroke: {
      front_x_mm: number[]
      front_y_mm: number[]
      guess_made_ms?: number[]
      guess_t_ms?: number[]
      guess_x_mm?: number[]
      guess_y_mm?: number[]
      stroke: components['schemas']['StrokeColumns']
      t_ms: number[]
      tip_x_mm: number[]
      tip_y_mm: number[]
    }
    /**
     * @description The share of a mark that is dragged along the motion, how far, in samples of the surface, and in how many
     *     looks.
     */
    SmearPlan: { looks: number; samples: number; share: number }
    SolveBody: {
      /** @default null */
      most_drag_ms: number | null
      /** @default null */
      most_left: number | null
      source: components['schemas']['Source']
      steady: components['schemas']['Steady']
    }
    SolveReply: { point: components['schemas']['TradePoint'] | null }
    SolveWashBody: {
      ink: components['schemas']['Recipe']
      paper: string
      source: components['schemas']['Source']
      /** @default wings folded */
      typed: string
      wash: components['schemas']['Recipe']
      /**
       * @default [
       *       "writing",
       *       "typed"
       *     ]
       */
      words: ('writing' | 'typed')[]
    }
    /**
     * @description measured: contrast after two passes and visibility after one of what was found, read off rendered pixels.
     *     colours: settings in other hues that work here too. twin: this wash as it works on `twin_paper`, a paper of the
     *     other lightness, with words that can be read there; None where it cannot.
     */
    SolveWashReply: {
      answer: components['schemas']['Answer']
      colours: components['schemas']['Setting'][]
      measured: { [key: string]: number }
      twin: components['schemas']['Setting'] | null
      twin_paper: string
    }
    /** @description Which ink: the sheet's longest line, all of it, its longest line of words, or some strokes. */
    Source: {
      /**
       * @default line
       * @enum {string}
       */
      part: 'line' | 'sheet' | 'words'
      sheet_id: string
      /** @default null */
      stroke_ids: string[] | null
    }
    /** @description folder: where everything lies; database, backups: bytes of files; held: bytes by what is kept in the database. */
    Space: { backups: number; database: number; folder: string; held: { [key: string]: number } }
    /** @description stroke, sample: where. Factors multiply the body's width: width = body * press * pace * taper. */
    Spot: {
      altitude_deg: number
      azimuth_deg: number
      body_mm: number
      force: number
      lean_factor: number
      pace_factor: number
      press_factor: number
      sample: number
      speed_mm_s: number
      stroke: number
      taper_factor: number
      width_mm: number
      x_mm: number
      y_mm: number
    }
    SpotBody: {
      recipe: components['schemas']['Recipe']
      source: components['schemas']['Source']
      x_mm: number
      y_mm: number
    }
    /**
     * @description open: whether something is shown; link: where, for any number of others, who can only look; code: the link as a
     *     picture of a QR code. mirrors: how many look now.
     */
    StageReply: { code: string; link: string; mirrors: number; open: boolean; sheet_id: string; whole: boolean }
    /** @description A standard line: whether this machine reads of it what was told. */
    StandardSeen: { apart: string[]; name: string; same: boolean }
    /** @description A piece to start with; ways: what the pen does, mm about its middle. */
    Starter: { name: string; ways: components['schemas']['Numbers2'][][] }
    /** @description Something in the bin that cannot go, and what needs it. */
    Stays: { needed_by: components['schemas']['Use'][]; thing: components['schemas']['Thing'] }
    Steady: {
      /**
       * Look-ahead
       * @description Ink is drawn so far ahead while you write; nothing of it is kept (ms)
       * @default 0
       */
      ahead_ms: number
      /**
       * Amount
       * @description 0 leaves the path untouched, 10 is the calmest and slowest
       * @default 0
       */
      amount: number
      /**
       * Speed answer
       * @description one-euro: how much quicker it follows when the hand is fast (Hz per mm/s)
       * @default 0.05
       */
      beta: number
      /**
       * Speed cutoff
       * @description one-euro: how calmly it judges the hand's speed (Hz)
       * @default 5
       */
      d_cutoff_hz: number
      /**
       * Method
       * @description How the path is calmed while you write
       * @default none
       * @enum {string}
       */
      method: 'none' | 'one-euro' | 'follow' | 'leash' | 'window'
    }
    /** @description The filter: its method ("none" for raw paths) and own parameter. */
    SteadyPlan: { beta: number; d_cutoff_hz: number; method: string; parameter: number }
    /** @description How strongly strokes are drawn straight, along which rules, and what rest at the end asks for it. */
    StraightPlan: {
      hold: components['schemas']['HoldPlan'] | null
      reach_mm: number
      strength: number
      within: number
      x_mm: number[]
      y_mm: number[]
    }
    /**
     * @description wave_mm: amplitude of the wave that is tied to the place, None where chance makes as large a one; period_mm: its
     *     length.
     */
    Straightness: {
      chance_mm: number
      lines: number
      period_mm: number | null
      tremor_mm: number
      wave_mm: number | null
      words: string[]
    }
    /**
     * @description A contact stream, column by column, on a screen of this size; width_mm and height_mm are 0 where the device
     *     gives none.
     */
    StreamBody: {
      force: number[]
      height_mm: number[]
      id: number[]
      phase: string[]
      pointer: string[]
      screen_mm: components['schemas']['Numbers2']
      t_ms: number[]
      width_mm: number[]
      x_mm: number[]
      y_mm: number[]
    }
    /**
     * @description What became of a stroke that was sent. state: kept, there (it was kept before) or refused; code and reason tell
     *     why it was refused and what to do.
     */
    StrokeAnswer: { code: string; id: string; reason: string; state: string }
    /** @description One stroke as the browser reported it. begun_ms: when it began, on a clock shared with the strokes around it. */
    StrokeColumns: {
      /** @default null */
      altitude: number[] | null
      /** @default null */
      azimuth: number[] | null
      /** @default null */
      begun_ms: number | null
      /** @default null */
      force: number[] | null
      t_ms: number[]
      x_mm: number[]
      y_mm: number[]
    }
    /**
     * @description path: where the stroke's ink lies, page mm, thinned out; width_mm: how broad it is at most; fill: what its inside
     *     is filled with.
     */
    StrokeMet: {
      fill: components['schemas']['Fill'] | null
      id: string
      path: components['schemas']['Numbers2'][]
      width_mm: number
    }
    StrokesBin: { binned: boolean; ids: string[] }
    /**
     * @description answers: what became of each stroke, in the order sent; box_mm: the part of the page whose picture changed, None
     *     where that is nothing or not known; sheet: as it is now.
     */
    StrokesKept: {
      answers: components['schemas']['StrokeAnswer'][]
      box_mm: components['schemas']['Numbers4'] | null
      sheet: components['schemas']['Sheet']
    }
    StrokesMet: { strokes: components['schemas']['StrokeMet'][] }
    /** @description The percentiles that are left when only `factor` is taken from the other setting. */
    Swap: { factor: string; p50_ms: number; p95_ms: number }
    SwapBody: {
      one: components['schemas']['LagSetting']
      other: components['schemas']['LagSetting']
      /**
       * @description How fast the nib goes (mm/s)
       * @default 60
       */
      speed_mm_s: number
    }
    /** @description away: strokes that go to the bin; back: strokes that come out of it. */
    SwapInk: { away: string[]; back: string[] }
    SwapReply: { swaps: components['schemas']['Swap'][] }
    /** @description A colour of the writer's own palette. */
    Swatch: { colour: string; name: string }
    SwatchOf: {
      /** @default #fffdf8 */
      ground: string
      recipe: components['schemas']['Recipe']
    }
    /**
     * @description Whose drills are searched: the simulated hand's, or those a real hand did. rules: those of now, which stay where
     *     none are better on own drills.
     */
    SweepBody: {
      device_id: string
      hand_id: string
      /** @default [] */
      own: components['schemas']['OwnPart'][]
      rules?: components['schemas']['Rules']
      /** @default null */
      zone: components['schemas']['Zone'] | null
    }
    System: {
      /**
       * Drawing
       * @description Time to draw a plain pen's newest ink, on the mean (ms)
       * @default 2
       */
      draw_ms: number
      /**
       * Drawing jitter
       * @description Standard deviation of the drawing (ms)
       * @default 1
       */
      draw_sd_ms: number
      /**
       * Hand-over
       * @description From the driver to the page, on the mean (ms)
       * @default 4
       */
      handover_ms: number
      /**
       * Hand-over jitter
       * @description Standard deviation of the hand-over (ms)
       * @default 2
       */
      handover_sd_ms: number
      /**
       * Queued frames
       * @description Finished pictures that wait before one is shown (frames)
       * @default 1
       */
      queued_frames: number
    }
    /**
     * @description name: of the file; files: of those inside, where it holds several; beside: of pages that could be read back;
     *     words: what that comes to.
     */
    TakenOut: { beside: components['schemas']['Beside'][]; bytes: number; files: string[]; name: string; words: string }
    /** @description A drill done once or several times: what came of all of them together, and the least and most of one. */
    Takes: {
      drill: string
      outcome: components['schemas']['Outcome']
      page_shift_mm: components['schemas']['Numbers2']
      palms_kept: [number, number]
      refused_gestures: [number, number]
      takes: number
    }
    /**
     * @description A nib put down on a cross: where the cross is and where the pen was reported, mm on the screen from its upper
     *     left; how it leant, radians, None where that is not reported.
     */
    Tap: {
      /** @default null */
      altitude: number | null
      /** @default null */
      azimuth: number | null
      cross_x_mm: number
      cross_y_mm: number
      x_mm: number
      y_mm: number
    }
    /** @description contrast: median along the strokes; broken: share of length under 3:1; thickness: stroke width over x-height. */
    TextItem: {
      broken: number
      contrast: number
      image: string
      thickness: number
      verdict: string
      x_height_mm: number
    }
    /** @description Something that is kept. made_at: empty where it is not known. binned_at: since when it lies in the bin. */
    Thing: { binned_at: string | null; id: string; kind: string; made_at: string; name: string; note: string }
    /** @description A thing, what uses it, and a pen's history, the first revision first. */
    ThingDetail: {
      device: components['schemas']['Device'] | null
      hand: components['schemas']['Hand'] | null
      history: components['schemas']['Revision'][]
      thing: components['schemas']['Thing']
      uses: components['schemas']['Use'][]
    }
    /** @description From this total delay on it is called `word`. */
    Threshold: { from_ms: number; source: string; word: string }
    /** @description placement: how the figure was sized and turned before the pen lifted. */
    TidyInk: {
      /**
       * @default [
       *       1,
       *       0,
       *       0,
       *       1,
       *       0,
       *       0,
       *       0,
       *       0
       *     ]
       */
      placement: [number, number, number, number, number, number, number, number]
    }
    Tip: {
      /**
       * Tip angle
       * @description Direction of the tip's long side on the page, from the writing line, rising to the right (deg)
       * @default 40
       */
      angle_deg: number
      /**
       * Tip length
       * @description Length of the tip over its thickness, for ellipse and chisel (x)
       * @default 5
       */
      aspect: number
      /**
       * Tip
       * @description Outline of the tip where it touches the paper; a spray does not touch it
       * @default round
       * @enum {string}
       */
      shape: 'round' | 'ellipse' | 'chisel' | 'spray'
    }
    /** @description told: how many there are of this pair now. */
    Told: { id: string; told: number }
    /** @description Of one contact its writer says that it was a palm, or that it was a finger. */
    ToldBody: {
      contact: number
      device_id: string
      hand_id: string
      palm: boolean
      stream: components['schemas']['StreamBody']
    }
    Toning: {
      /**
       * Bolder
       * @description Pixels by which everything drawn is made wider (px)
       * @default 0
       */
      bolder_px: number
      /**
       * Dither
       * @description How tones between the panel's greys are mixed
       * @default none
       * @enum {string}
       */
      dither:
        'none' | 'ordered' | 'blue-noise' | 'floyd-steinberg' | 'jarvis-judice-ninke' | 'stucki' | 'burkes' | 'sierra'
      /**
       * Greys
       * @description Greys in use; 0 for all of the panel's (greys)
       * @default 0
       */
      greys: number
      /**
       * Contrast raised
       * @description How much farther from the paper every tone is put (×)
       * @default 1
       */
      raised: number
    }
    Tooth: {
      /**
       * Bristles
       * @description How far a brush splits into bristles, which run along the stroke and run dry one after another
       * @default 0
       */
      bristles: number
      /**
       * Crisp
       * @description Gritty marks, kept gritty in every export; off gives soft edges
       * @default true
       */
      crisp: boolean
      /**
       * Crumbs
       * @description How much the lead crumbles: bits lie in the mark and beside it
       * @default 0
       */
      crumbs: number
      /**
       * Depth
       * @description How much the surface rules the mark; 0 ignores it
       * @default 0.85
       */
      depth: number
      /**
       * Grade
       * @description Hardness of the lead, from 4H, hard and light, to 8B, soft and black
       * @default HB
       * @enum {string}
       */
      grade: '4H' | '3H' | '2H' | 'H' | 'F' | 'HB' | 'B' | '2B' | '3B' | '4B' | '5B' | '6B' | '7B' | '8B'
      /**
       * Grain
       * @description The paper surface the pen catches on
       * @default none
       * @enum {string}
       */
      grain: 'none' | 'smooth' | 'laid' | 'cold-pressed' | 'rough' | 'board' | 'drops' | 'own'
      /**
       * Own grain
       * @description A surface made from a picture; `grain` must be own
       * @default
       */
      own: string
      /**
       * Grain size
       * @description Distance from peak to peak of the surface (mm)
       * @default 0.4
       */
      scale_mm: number
      /**
       * Smear
       * @description How far the mark is dragged along the motion, as soft lead is
       * @default 0
       */
      smear: number
    }
    Touch: {
      /**
       * Smallest contact
       * @description Contacts smaller than this are not felt (mm)
       * @default 3
       */
      least_mm: number
      /**
       * Touch noise
       * @description RMS error of a contact's position, each way (mm)
       * @default 0.15
       */
      noise_mm: number
      /**
       * Pen first
       * @description Whether it feels nothing new while it sees the pen
       * @default false
       */
      pen_first: boolean
      /**
       * Touch rate
       * @description Contacts reported a second (reports/s)
       * @default 120
       */
      report_hz: number
      /**
       * Contact size
       * @description Whether it reports how large a contact is
       * @default true
       */
      size: boolean
      /**
       * Size noise
       * @description RMS error of a contact's size (of the size)
       * @default 0.08
       */
      size_noise: number
      /**
       * Touch delay
       * @description From a landing to its report (ms)
       * @default 12
       */
      transport_ms: number
    }
    TradeBody: { source: components['schemas']['Source']; steady: components['schemas']['Steady'] }
    /** @description One setting: its method's own parameter, the share of a shake left on a slow line, the drag on these strokes. */
    TradePoint: { amount: number; drag_ms: number; method: string; parameter: number; shake_left: number }
    TradeReply: {
      methods: { [key: string]: { [key: string]: string } }
      now: components['schemas']['TradePoint']
      points: components['schemas']['TradePoint'][]
    }
    /** @description All of them as plain columns, for the browser: bounds hold a leaf's worth where numbers is -1. */
    Trees: {
      above: number[]
      base: number
      bounds: number[]
      missing: number[]
      names: string[]
      numbers: number[]
      roots: number[]
    }
    Turn: {
      /**
       * Added
       * @description Delay added to what the browser has (ms)
       */
      added_ms: number
      /**
       * Answer
       * @description What the writer said of it
       * @enum {string}
       */
      answer: 'none' | 'slight' | 'laggy'
      /**
       * To the frame
       * @description From an event to its frame, median (ms)
       */
      frame_ms: number
      /**
       * Kind
       * @description Which staircase it belongs to, or a catch turn
       * @enum {string}
       */
      kind: 'noticed' | 'disturbed' | 'catch'
      /**
       * Speed
       * @description How fast the nib went, median (mm/s)
       */
      speed_mm_s: number
    }
    Updates: {
      /**
       * Clearing
       * @description How long the blink takes that takes ghosts away (ms)
       * @default 750
       */
      clear_ms: number
      /**
       * Clears after
       * @description Grey updates until it clears; 0 for never (updates)
       * @default 40
       */
      clears_after: number
      /**
       * Ghost, fast
       * @description Share of a change that a fast update leaves
       * @default 0.1
       */
      fast_ghost: number
      /**
       * Fast update
       * @description How long ink of two tones takes to appear (ms)
       * @default 20
       */
      fast_ms: number
      /**
       * Ghost, full
       * @description Share of a change that a full update leaves
       * @default 0.015
       */
      full_ghost: number
      /**
       * Full update
       * @description How long all greys take, as where a page is turned (ms)
       * @default 450
       */
      full_ms: number
      /**
       * Ghost, grey
       * @description Share of a change that a grey update leaves
       * @default 0.04
       */
      grey_ghost: number
      /**
       * Grey update
       * @description How long a part of the picture in greys takes (ms)
       * @default 260
       */
      grey_ms: number
      /**
       * Erasing leaves
       * @description How much more stays where a pixel grows lighter (×)
       * @default 1.8
       */
      lighter: number
      /**
       * Greys, grey update
       * @description Greys it has; all others follow in full (greys)
       * @default 256
       */
      quick_greys: number
    }
    /** @description Something that uses a thing: its kind and id as in the cabinet, its name, and how it uses it, in words. */
    Use: { binned: boolean; id: string; kind: string; name: string; words: string }
    /**
     * @description met: whether the pen is what it says. failed: the bounds it misses. nearest: the kind it really is. demands: what
     *     its own kind asks for, in words.
     */
    Verdict: {
      demands: string[]
      failed: components['schemas']['Failed'][]
      kind: string
      met: boolean
      nature: components['schemas']['Nature']
      nearest: string
    }
    Wash: {
      /**
       * Blend
       * @description W3C blend mode; auto multiplies on light paper and screens on dark
       * @default normal
       * @enum {string}
       */
      blend: 'normal' | 'multiply' | 'screen' | 'auto'
      /**
       * Build-up
       * @description Crossing its own stroke darkens the mark
       * @default false
       */
      build_up: boolean
      /**
       * Flow
       * @description Spray: how fast it lays tone where the pen rests (per s)
       * @default 2.5
       */
      flow: number
      /**
       * Hold to straighten
       * @description Holding still at the end of a stroke draws that stroke straight
       * @default false
       */
      hold_straight: boolean
      /**
       * Place
       * @description Over the ink, or under it like a highlighter that never dims words
       * @default over
       * @enum {string}
       */
      place: 'over' | 'under'
      /**
       * Pooling
       * @description How much of the tone gathers where the pen lands and where it lifts
       * @default 0
       */
      pool: number
      /**
       * Straight along
       * @description The line that fits the stroke best, or the ruling where the stroke follows it
       * @default its own line
       * @enum {string}
       */
      straight_to: 'its own line' | 'the ruling'
      /**
       * Straighten
       * @description How strongly a stroke is drawn to a straight line
       * @default 0
       */
      straighten: number
      /**
       * Streaks
       * @description How much rows laid side by side darken where they overlap; at 0 an area filled in many strokes is even
       * @default 1
       */
      streaks: number
      /**
       * @default { *       "angle_deg": 40,
       *       "aspect": 5,
       *       "shape": "round"
       *     }
       */
      tip: components['schemas']['Tip']
      /**
       * Wet edge
       * @description How much of the tone gathers along the rim as the mark dries
       * @default 0
       */
      wet_edge: number
    }
    /** @description What was touched, crossed or ringed, page mm. */
    Way: { way: [number, number][] }
    /**
     * @description What the whole scale of a criterion, 0 to 100 points, does to the odds of being chosen, as ln, with its
     *     interval; told: the interval leaves nought out.
     */
    Weight: { criterion: string; high: number; low: number; weight: number }
    /** @description to: the backup; kept: the backup that holds what was there before. */
    WentBack: { kept: string; to: string }
    /** @description A wet mark loses `loss` of its tone inside a rim of wall_mm. */
    WetPlan: { loss: number; wall_mm: number }
    /** @description What became of a contact and why, in words. */
    Why: { decision: string; rule: string; words: string }
    /** @description One contact of what was felt on the glass, under some rules. */
    WhyBody: {
      contact: number
      device_id: string
      hand_id: string
      rules: components['schemas']['Rules']
      stream: components['schemas']['StreamBody']
    }
    /** @description A word as a hand writes it, small. */
    WordBody: {
      /** @default false */
      bold: boolean
      px_per_mm: number
      word: string
      x_height_mm: number
    }
    /** @description draft: what the sheet's pen is, where it writes with changes not kept. */
    WriteText: {
      /** @default null */
      draft: components['schemas']['Recipe'] | null
      /** @default false */
      prompts: boolean
      /** @default 1 */
      seed: number
      /** @default  */
      text: string
    }
    /** @description By whom and on what it was written, as they were then. */
    Written: {
      device: components['schemas']['Device']
      device_id: string
      hand: components['schemas']['Hand']
      hand_id: string
      rules: components['schemas']['Rules']
    }
    Zone: {
      /**
       * Across
       * @description Its middle from the nib, to the right (mm)
       */
      dx_mm: number
      /**
       * Down
       * @description Its middle from the nib, downwards (mm)
       */
      dy_mm: number
      /**
       * Half width
       * @description Half its width (mm)
       */
      rx_mm: number
      /**
       * Half height
       * @description Half its height (mm)
       */
      ry_mm: number
    }
  }
  responses: {
    /** @description Done */
    BackupList: { content: { 'application/json': components['schemas']['BackupList'] } }
    /** @description Done */
    Clock: { content: { 'application/json': components['schemas']['Clock'] } }
    /** @description Done */
    Desk: { content: { 'application/json': components['schemas']['Desk'] } }
    /** @description Done */
    DeviceItem: { content: { 'application/json': components['schemas']['DeviceItem'] } }
    /** @description Done */
    Done: { content: { 'application/json': components['schemas']['Done'] } }
    /** @description Refused, with what to do */
    ErrorReply: { content: { 'application/json': components['schemas']['ErrorReply'] } }
    /** @description Done */
    FeltReply: { content: { 'application/json': components['schemas']['FeltReply'] } }
    /** @description Done */
    HandItem: { content: { 'application/json': components['schemas']['HandItem'] } }
    /** @description Done */
    InkChanged: { content: { 'application/json': components['schemas']['InkChanged'] } }
    /** @description Done */
    InkedAgain: { content: { 'application/json': components['schemas']['InkedAgain'] } }
    /** @description Done */
    JobItem: { content: { 'application/json': components['schemas']['JobItem'] } }
    /** @description Done */
    JudgingItem: { content: { 'application/json': components['schemas']['JudgingItem'] } }
    /** @description Done */
    Judgings: { content: { 'application/json': components['schemas']['Judgings'] } }
    /** @description Done */
    KeptLineups: { content: { 'application/json': components['schemas']['KeptLineups'] } }
    /** @description Done */
    LagRun: { content: { 'application/json': components['schemas']['LagRun'] } }
    /** @description Done */
    Pages: { content: { 'application/json': components['schemas']['Pages'] } }
    /** @description Done */
    PairToJudge: { content: { 'application/json': components['schemas']['PairToJudge'] } }
    /** @description Done */
    PalmRun: { content: { 'application/json': components['schemas']['PalmRun'] } }
    /** @description Done */
    PalmSetting: { content: { 'application/json': components['schemas']['PalmSetting'] } }
    /** @description Done */
    Pen: { content: { 'application/json': components['schemas']['Pen'] } }
    /** @description Done */
    PenList: { content: { 'application/json': components['schemas']['PenList'] } }
    /** @description Done */
    PenPlan: { content: { 'application/json': components['schemas']['PenPlan'] } }
    /** @description Done */
    Placed: { content: { 'application/json': components['schemas']['Placed'] } }
    /** @description Done */
    ReadReply: { content: { 'application/json': components['schemas']['ReadReply'] } }
    /** @description Done */
    RoomReply: { content: { 'application/json': components['schemas']['RoomReply'] } }
    /** @description Done */
    Rubbed: { content: { 'application/json': components['schemas']['Rubbed'] } }
    /** @description Done */
    Sheet: { content: { 'application/json': components['schemas']['Sheet'] } }
    /** @description Done */
    SheetCame: { content: { 'application/json': components['schemas']['SheetCame'] } }
    /** @description Done */
    StageReply: { content: { 'application/json': components['schemas']['StageReply'] } }
    /** @description Done */
    StrokesKept: { content: { 'application/json': components['schemas']['StrokesKept'] } }
    /** @description Done */
    StrokesMet: { content: { 'application/json': components['schemas']['StrokesMet'] } }
    /** @description Done */
    Thing: { content: { 'application/json': components['schemas']['Thing'] } }
    /** @description Done */
    Told: { content: { 'application/json': components['schemas']['Told'] } }
    /** @description Done */
    csv: { content: { 'text/csv': string } }
    /** @description Done */
    'event-stream': { content: { 'text/event-stream': string } }
    /** @description Done */
    json: { content: { 'application/json': string } }
    /** @description Done */
    'octet-stream': { content: { 'application/octet-stream': string } }
    /** @description Done */
    png: { content: { 'image/png': string } }
    /** @description Done */
    zip: { content: { 'application/zip': string } }
  }
  parameters: {
    browser_id: string
    device_id: string
    felt_id: string
    form: string
    hand_id: string
    job_id: string
    judging_id: string
    kept_id: string
    key: string
    name: string
    number: string
    pen_id: string
    revision: string
    run_id: string
    sheet_id: string
    stroke_id: string
    told_id: string
  }
  requestBodies: never
  headers: never
  pathItems: never
}
export type $defs = Record<string, never>
export interface operations {
  bring_in_archive: {
    parameters: { query?: { only_look?: boolean } }
    requestBody: { content: { 'application/zip': string } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['ArchiveCame'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  take_out_archive: {
    responses: { 202: components['responses']['JobItem']; '4XX': components['responses']['ErrorReply'] }
  }
  read_backups: {
    responses: { 200: components['responses']['BackupList']; '4XX': components['responses']['ErrorReply'] }
  }
  make_backup: {
    responses: { 201: components['responses']['BackupList']; '4XX': components['responses']['ErrorReply'] }
  }
  back_to_then: {
    parameters: { path: { name: components['parameters']['name'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['WentBack'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  read_changes: {
    parameters: { path: { name: components['parameters']['name'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['Changes'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  check_backup: {
    parameters: { path: { name: components['parameters']['name'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['BackupItem'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  read_pen_bin: { responses: { 200: components['responses']['PenList']; '4XX': components['responses']['ErrorReply'] } }
  read_binned_sheets: {
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['SheetsInBin'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  find_things: {
    parameters: {
      query?: {
        words?: string
        kind?: string
        since?: string
        until?: string
        use?: 'any' | 'used' | 'unused'
        binned?: boolean
        first?: number
        most?: number
      }
    }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['Found'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  look_into_bin: {
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['Emptying'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  empty_the_bin: {
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['Emptied'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  read_kinds: {
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['CabinetInfo'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  read_picture: {
    parameters: { query: { ground?: string; kind: string; id: string; times?: number } }
    responses: { 200: components['responses']['png']; '4XX': components['responses']['ErrorReply'] }
  }
  read_space: {
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['Space'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  read_thing: {
    parameters: { query: { kind: string; id: string } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['ThingDetail'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  bin_kept_thing: {
    parameters: { query: { kind: string; id: string } }
    requestBody: { content: { 'application/json': components['schemas']['BinChange'] } }
    responses: { 200: components['responses']['Thing']; '4XX': components['responses']['ErrorReply'] }
  }
  copy_kept_thing: {
    parameters: { query: { kind: string; id: string } }
    responses: { 201: components['responses']['Thing']; '4XX': components['responses']['ErrorReply'] }
  }
  take_out_thing: {
    parameters: { query: { kind: string; id: string } }
    responses: { 200: components['responses']['zip']; '4XX': components['responses']['ErrorReply'] }
  }
  name_kept_thing: {
    parameters: { query: { kind: string; id: string } }
    requestBody: { content: { 'application/json': components['schemas']['NewName'] } }
    responses: { 200: components['responses']['Thing']; '4XX': components['responses']['ErrorReply'] }
  }
  note_kept_thing: {
    parameters: { query: { kind: string; id: string } }
    requestBody: { content: { 'application/json': components['schemas']['NewNote'] } }
    responses: { 200: components['responses']['Thing']; '4XX': components['responses']['ErrorReply'] }
  }
  show_pair: {
    requestBody: { content: { 'application/json': components['schemas']['Choosing'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['PairShown'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  show_preferred: {
    requestBody: { content: { 'application/json': components['schemas']['Choosing'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['PreferredPen'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  look_at_table: {
    requestBody: { content: { 'text/csv': string } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['CsvLook'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  read_desk: { responses: { 200: components['responses']['Desk']; '4XX': components['responses']['ErrorReply'] } }
  change_desk: {
    requestBody: { content: { 'application/json': components['schemas']['DeskChange'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['DeskKept'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  read_colours: {
    requestBody: { content: { 'application/json': components['schemas']['Colours'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['ColoursReply'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  first_choices: {
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['FirstChoices'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  first_desk: {
    requestBody: { content: { 'application/json': components['schemas']['FirstDesk'] } }
    responses: { 201: components['responses']['Desk']; '4XX': components['responses']['ErrorReply'] }
  }
  change_roll: {
    requestBody: { content: { 'application/json': components['schemas']['Roll'] } }
    responses: { 200: components['responses']['Done']; '4XX': components['responses']['ErrorReply'] }
  }
  keep_device: {
    requestBody: { content: { 'application/json': components['schemas']['NewDevice'] } }
    responses: { 201: components['responses']['DeviceItem']; '4XX': components['responses']['ErrorReply'] }
  }
  change_device: {
    parameters: { path: { device_id: components['parameters']['device_id'] } }
    requestBody: { content: { 'application/json': components['schemas']['NewDeviceRecord'] } }
    responses: { 200: components['responses']['DeviceItem']; '4XX': components['responses']['ErrorReply'] }
  }
  read_export: {
    parameters: { path: { job_id: components['parameters']['job_id'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['TakenOut'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  export_file: {
    parameters: { path: { job_id: components['parameters']['job_id'] } }
    responses: { 200: components['responses']['octet-stream']; '4XX': components['responses']['ErrorReply'] }
  }
  find_figure: {
    requestBody: { content: { 'application/json': components['schemas']['Way'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['FigureMeant'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  add_hand: {
    requestBody: { content: { 'application/json': components['schemas']['NewHand'] } }
    responses: { 201: components['responses']['HandItem']; '4XX': components['responses']['ErrorReply'] }
  }
  draw_hand_line: {
    requestBody: { content: { 'application/json': components['schemas']['HandLine'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['HandLineReply'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  measure: {
    requestBody: { content: { 'application/json': components['schemas']['MeasureBody'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['MeasureReply'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  change_hand: {
    parameters: { path: { hand_id: components['parameters']['hand_id'] } }
    requestBody: { content: { 'application/json': components['schemas']['NewHandRecord'] } }
    responses: { 200: components['responses']['HandItem']; '4XX': components['responses']['ErrorReply'] }
  }
  job_state: {
    parameters: { path: { job_id: components['parameters']['job_id'] } }
    responses: { 200: components['responses']['JobItem']; '4XX': components['responses']['ErrorReply'] }
  }
  cancel_job: {
    parameters: { path: { job_id: components['parameters']['job_id'] } }
    responses: { 200: components['responses']['JobItem']; '4XX': components['responses']['ErrorReply'] }
  }
  job_events: {
    parameters: { path: { job_id: components['parameters']['job_id'] } }
    responses: { 200: components['responses']['event-stream']; '4XX': components['responses']['ErrorReply'] }
  }
  read_lag: {
    requestBody: { content: { 'application/json': components['schemas']['LagBody'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['LagReply'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  read_feel: {
    requestBody: { content: { 'application/json': components['schemas']['FeelBody'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['FeelReply'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  keep: {
    requestBody: { content: { 'application/json': components['schemas']['NewFelt'] } }
    responses: { 201: components['responses']['FeltReply']; '4XX': components['responses']['ErrorReply'] }
  }
  bin_kept: {
    parameters: { path: { felt_id: components['parameters']['felt_id'] } }
    requestBody: { content: { 'application/json': components['schemas']['HandBin'] } }
    responses: { 200: components['responses']['FeltReply']; '4XX': components['responses']['ErrorReply'] }
  }
  read_own_film: {
    parameters: { query: { fps: number; mm_per_px: number } }
    requestBody: { content: { 'application/zip': string } }
    responses: { 202: components['responses']['JobItem']; '4XX': components['responses']['ErrorReply'] }
  }
  read_hand_marks: {
    requestBody: { content: { 'application/json': components['schemas']['MarksBody'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['Marked'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  film_pen: {
    requestBody: { content: { 'application/json': components['schemas']['FilmBody'] } }
    responses: { 202: components['responses']['JobItem']; '4XX': components['responses']['ErrorReply'] }
  }
  film_reading: {
    parameters: { path: { job_id: components['parameters']['job_id'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['FilmReading'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  film_frames: {
    parameters: { path: { job_id: components['parameters']['job_id'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['FilmFrames'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  read_film_picture: {
    parameters: { path: { job_id: components['parameters']['job_id']; number: components['parameters']['number'] } }
    responses: { 200: components['responses']['png']; '4XX': components['responses']['ErrorReply'] }
  }
  inspect_device: {
    requestBody: { content: { 'application/json': components['schemas']['InspectBody'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['Inspection'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  kept_lag_runs: {
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['LagRuns'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  keep_lag_run: {
    requestBody: { content: { 'application/json': components['schemas']['NewRun'] } }
    responses: { 201: components['responses']['LagRun']; '4XX': components['responses']['ErrorReply'] }
  }
  bin_lag_run: {
    parameters: { path: { run_id: components['parameters']['run_id'] } }
    requestBody: { content: { 'application/json': components['schemas']['BinChange'] } }
    responses: { 200: components['responses']['LagRun']; '4XX': components['responses']['ErrorReply'] }
  }
  read_shown: {
    requestBody: { content: { 'application/json': components['schemas']['ShownBody'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['ShownReply'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  swap_settings: {
    requestBody: { content: { 'application/json': components['schemas']['SwapBody'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['SwapReply'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  read_lineup: {
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['LineupInfo'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  kept_lineups: {
    responses: { 200: components['responses']['KeptLineups']; '4XX': components['responses']['ErrorReply'] }
  }
  bin_lineup: {
    parameters: { path: { kept_id: components['parameters']['kept_id'] } }
    requestBody: { content: { 'application/json': components['schemas']['BinChange'] } }
    responses: { 200: components['responses']['KeptLineups']; '4XX': components['responses']['ErrorReply'] }
  }
  open_lineup: {
    parameters: { path: { kept_id: components['parameters']['kept_id'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['KeptLineup'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  retest_lineup: {
    parameters: { path: { kept_id: components['parameters']['kept_id'] } }
    responses: {
      /** @description Done */
      202: { content: { 'application/json': components['schemas']['Retest'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  run_lineup: {
    requestBody: { content: { 'application/json': components['schemas']['NewLineup'] } }
    responses: { 202: components['responses']['JobItem']; '4XX': components['responses']['ErrorReply'] }
  }
  read_lineup_run: {
    parameters: { path: { job_id: components['parameters']['job_id'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['LineupRun'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  read_front: {
    parameters: { query: { across: string; up: string }; path: { job_id: components['parameters']['job_id'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['Front'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  keep_lineup: {
    parameters: { path: { job_id: components['parameters']['job_id'] } }
    requestBody: { content: { 'application/json': components['schemas']['KeepLineup'] } }
    responses: {
      /** @description Done */
      201: { content: { 'application/json': components['schemas']['LineupHead'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  read_moved: {
    parameters: { query: { kept_id: string }; path: { job_id: components['parameters']['job_id'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['MovedSince'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  rank_lineup: {
    parameters: { path: { job_id: components['parameters']['job_id'] } }
    requestBody: { content: { 'application/json': components['schemas']['RankBody'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['Rankings'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  report_lineup: {
    parameters: { path: { job_id: components['parameters']['job_id'] } }
    requestBody: { content: { 'application/json': components['schemas']['ReportBody'] } }
    responses: { 200: components['responses']['octet-stream']; '4XX': components['responses']['ErrorReply'] }
  }
  read_clock: { responses: { 200: components['responses']['Clock']; '4XX': components['responses']['ErrorReply'] } }
  mirror_news: {
    responses: { 200: components['responses']['event-stream']; '4XX': components['responses']['ErrorReply'] }
  }
  mirror_page: {
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['MirrorPage'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  mirror_picture: {
    parameters: {
      query?: {
        lifted?: boolean
        scale?: number
        left?: number
        top?: number
        right?: number | null
        bottom?: number | null
      }
    }
    responses: { 200: components['responses']['png']; '4XX': components['responses']['ErrorReply'] }
  }
  mirror_pen: {
    parameters: { path: { key: components['parameters']['key'] } }
    responses: { 200: components['responses']['PenPlan']; '4XX': components['responses']['ErrorReply'] }
  }
  tell_news: {
    responses: { 200: components['responses']['event-stream']; '4XX': components['responses']['ErrorReply'] }
  }
  read_judgings: {
    responses: { 200: components['responses']['Judgings']; '4XX': components['responses']['ErrorReply'] }
  }
  begin_pairs: {
    requestBody: { content: { 'application/json': components['schemas']['NewPairs'] } }
    responses: { 201: components['responses']['JudgingItem']; '4XX': components['responses']['ErrorReply'] }
  }
  answer_pair: {
    parameters: { path: { judging_id: components['parameters']['judging_id'] } }
    requestBody: { content: { 'application/json': components['schemas']['AnswerBody'] } }
    responses: { 200: components['responses']['PairToJudge']; '4XX': components['responses']['ErrorReply'] }
  }
  bin_pairs: {
    parameters: { path: { judging_id: components['parameters']['judging_id'] } }
    requestBody: { content: { 'application/json': components['schemas']['BinChange'] } }
    responses: { 200: components['responses']['Judgings']; '4XX': components['responses']['ErrorReply'] }
  }
  take_out_pairs: {
    parameters: { path: { judging_id: components['parameters']['judging_id'] } }
    responses: { 200: components['responses']['json']; '4XX': components['responses']['ErrorReply'] }
  }
  bring_in_pairs: {
    parameters: { path: { judging_id: components['parameters']['judging_id'] } }
    requestBody: { content: { 'application/octet-stream': string } }
    responses: { 201: components['responses']['JudgingItem']; '4XX': components['responses']['ErrorReply'] }
  }
  read_pair: {
    parameters: { path: { judging_id: components['parameters']['judging_id'] } }
    responses: { 200: components['responses']['PairToJudge']; '4XX': components['responses']['ErrorReply'] }
  }
  read_told: {
    parameters: { path: { judging_id: components['parameters']['judging_id'] } }
    requestBody: { content: { 'application/json': components['schemas']['PairsAsked'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['PairsTold'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  palm_info: {
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['PalmInfo'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  contacts_in: {
    parameters: { query: { width_mm: number; height_mm: number } }
    requestBody: { content: { 'text/csv': string } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['StreamBody'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  contacts_out: {
    parameters: { query: { hand_id: string; device_id: string; drill: string; hard?: boolean; seed?: number } }
    responses: { 200: components['responses']['csv']; '4XX': components['responses']['ErrorReply'] }
  }
  own_contacts_out: {
    requestBody: { content: { 'application/json': components['schemas']['StreamBody'] } }
    responses: { 200: components['responses']['csv']; '4XX': components['responses']['ErrorReply'] }
  }
  judge_drills: {
    requestBody: { content: { 'application/json': components['schemas']['RunBody'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['JudgedRun'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  measure_posture: {
    requestBody: { content: { 'application/json': components['schemas']['PostureBody'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['Posture'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  kept_palm_runs: {
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['PalmRuns'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  keep_palm_run: {
    requestBody: { content: { 'application/json': components['schemas']['RunBody'] } }
    responses: { 201: components['responses']['PalmRun']; '4XX': components['responses']['ErrorReply'] }
  }
  bin_palm_run: {
    parameters: { path: { run_id: components['parameters']['run_id'] } }
    requestBody: { content: { 'application/json': components['schemas']['BinChange'] } }
    responses: { 200: components['responses']['PalmRun']; '4XX': components['responses']['ErrorReply'] }
  }
  palm_setting: {
    parameters: { query: { hand_id: string; device_id: string } }
    responses: { 200: components['responses']['PalmSetting']; '4XX': components['responses']['ErrorReply'] }
  }
  keep_palm_setting: {
    requestBody: { content: { 'application/json': components['schemas']['NewSetting'] } }
    responses: { 200: components['responses']['PalmSetting']; '4XX': components['responses']['ErrorReply'] }
  }
  sweep_rules: {
    requestBody: { content: { 'application/json': components['schemas']['SweepBody'] } }
    responses: { 202: components['responses']['JobItem']; '4XX': components['responses']['ErrorReply'] }
  }
  sweep_result: {
    parameters: { path: { job_id: components['parameters']['job_id'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['Recommended'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  tell: {
    requestBody: { content: { 'application/json': components['schemas']['ToldBody'] } }
    responses: { 201: components['responses']['Told']; '4XX': components['responses']['ErrorReply'] }
  }
  take_told_back: {
    parameters: { path: { told_id: components['parameters']['told_id'] } }
    requestBody: { content: { 'application/json': components['schemas']['PairBin'] } }
    responses: { 200: components['responses']['Told']; '4XX': components['responses']['ErrorReply'] }
  }
  palm_trees: {
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['Trees'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  why_decided: {
    requestBody: { content: { 'application/json': components['schemas']['WhyBody'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['Why'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  read_panel_ways: {
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['PanelWays'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  read_panel_advice: {
    requestBody: { content: { 'application/json': components['schemas']['PanelAdviceBody'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['PanelAdviceReply'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  read_difference: {
    requestBody: { content: { 'application/json': components['schemas']['DifferenceBody'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['DifferenceReply'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  read_exports: {
    requestBody: { content: { 'application/json': components['schemas']['OnPanel'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['Exports'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  make_film: {
    requestBody: { content: { 'application/json': components['schemas']['PageFilmBody'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['PanelFilm'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  save_film: {
    requestBody: { content: { 'application/json': components['schemas']['PageFilmBody'] } }
    responses: { 200: components['responses']['zip']; '4XX': components['responses']['ErrorReply'] }
  }
  fit_pen: {
    requestBody: { content: { 'application/json': components['schemas']['PanelFitBody'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['Fitted'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  make_own: {
    requestBody: { content: { 'application/json': components['schemas']['OwnPanel'] } }
    responses: { 201: components['responses']['DeviceItem']; '4XX': components['responses']['ErrorReply'] }
  }
  change_own: {
    parameters: { path: { device_id: components['parameters']['device_id'] } }
    requestBody: { content: { 'application/json': components['schemas']['PanelChange'] } }
    responses: { 200: components['responses']['DeviceItem']; '4XX': components['responses']['ErrorReply'] }
  }
  read_proof: {
    requestBody: { content: { 'application/json': components['schemas']['ProofBody'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['ProofReply'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  read_paper_fields: {
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['PaperFields'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  read_own_paper: {
    parameters: { query: { name: string } }
    responses: { 200: components['responses']['png']; '4XX': components['responses']['ErrorReply'] }
  }
  read_advice: {
    requestBody: { content: { 'application/json': components['schemas']['PenOn'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['AdviceReply'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  turn_dial: {
    requestBody: { content: { 'application/json': components['schemas']['DialBody'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['DialReply'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  read_differences: {
    requestBody: { content: { 'application/json': components['schemas']['DifferBody'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['DifferReply'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  read_effects: {
    requestBody: { content: { 'application/json': components['schemas']['EffectsBody'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['EffectsReply'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  fit_to_hand: {
    requestBody: { content: { 'application/json': components['schemas']['FitBody'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['FitReply'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  remember_fit: {
    requestBody: { content: { 'application/json': components['schemas']['KeepFit'] } }
    responses: { 200: components['responses']['Done']; '4XX': components['responses']['ErrorReply'] }
  }
  read_fit: {
    parameters: {
      path: { hand_id: components['parameters']['hand_id']; device_id: components['parameters']['device_id'] }
    }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['KeptFit'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  read_force: {
    requestBody: { content: { 'application/json': components['schemas']['Source'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['ForceReply'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  read_heat: {
    requestBody: { content: { 'application/json': components['schemas']['HeatBody'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['HeatReply'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  judge: {
    requestBody: { content: { 'application/json': components['schemas']['JudgeBody'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['Verdict'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  read_ladder: {
    requestBody: { content: { 'application/json': components['schemas']['LadderBody'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['LadderReply'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  make_plan: {
    requestBody: { content: { 'application/json': components['schemas']['PlanBody'] } }
    responses: { 200: components['responses']['PenPlan']; '4XX': components['responses']['ErrorReply'] }
  }
  make_preview: {
    requestBody: { content: { 'application/json': components['schemas']['Preview'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['PreviewReply'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  read_with: {
    requestBody: { content: { 'application/json': components['schemas']['PenOn'] } }
    responses: { 200: components['responses']['ReadReply']; '4XX': components['responses']['ErrorReply'] }
  }
  shade: {
    requestBody: { content: { 'application/json': components['schemas']['ShadingBody'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['ShadingReply'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  solve: {
    requestBody: { content: { 'application/json': components['schemas']['SolveBody'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['SolveReply'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  read_spot: {
    requestBody: { content: { 'application/json': components['schemas']['SpotBody'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['Spot'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  convert_steady: {
    parameters: { query: { method: string; amount?: number | null; parameter?: number | null } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['ConvertReply'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  read_surface: {
    parameters: { path: { name: components['parameters']['name'] } }
    responses: { 200: components['responses']['octet-stream']; '4XX': components['responses']['ErrorReply'] }
  }
  trade: {
    requestBody: { content: { 'application/json': components['schemas']['TradeBody'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['TradeReply'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  new_pen: {
    requestBody: { content: { 'application/json': components['schemas']['NewPen'] } }
    responses: { 201: components['responses']['Pen']; '4XX': components['responses']['ErrorReply'] }
  }
  bring_in_pen: {
    requestBody: { content: { 'application/json': string } }
    responses: { 201: components['responses']['Pen']; '4XX': components['responses']['ErrorReply'] }
  }
  read_forms: {
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['FormList'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  make_grain: {
    requestBody: { content: { 'image/png': string } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['Grain'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  keep_shared_pen: {
    parameters: { query: { sheet_id: string; fit?: boolean } }
    requestBody: { content: { 'application/zip': string } }
    responses: { 201: components['responses']['Pen']; '4XX': components['responses']['ErrorReply'] }
  }
  look_at_shared_pen: {
    parameters: { query: { sheet_id: string; fit?: boolean } }
    requestBody: { content: { 'application/zip': string } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['SharedLook'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  draw_swatch: {
    requestBody: { content: { 'application/json': components['schemas']['SwatchOf'] } }
    responses: { 200: components['responses']['png']; '4XX': components['responses']['ErrorReply'] }
  }
  change_pen_bin: {
    parameters: { path: { pen_id: components['parameters']['pen_id'] } }
    requestBody: { content: { 'application/json': components['schemas']['BinChange'] } }
    responses: { 200: components['responses']['Pen']; '4XX': components['responses']['ErrorReply'] }
  }
  read_pen_history: {
    parameters: { path: { pen_id: components['parameters']['pen_id'] } }
    responses: { 200: components['responses']['PenList']; '4XX': components['responses']['ErrorReply'] }
  }
  new_revision: {
    parameters: { path: { pen_id: components['parameters']['pen_id'] } }
    requestBody: { content: { 'application/json': components['schemas']['NewRevision'] } }
    responses: { 201: components['responses']['Pen']; '4XX': components['responses']['ErrorReply'] }
  }
  take_out_card: {
    parameters: {
      query: { device_id: string; hand_id: string }
      path: { pen_id: components['parameters']['pen_id']; revision: components['parameters']['revision'] }
    }
    responses: {
      /** @description Done */
      200: { content: { 'application/pdf': string } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  take_out_pen: {
    parameters: { path: { pen_id: components['parameters']['pen_id']; revision: components['parameters']['revision'] } }
    responses: { 200: components['responses']['json']; '4XX': components['responses']['ErrorReply'] }
  }
  take_out_form: {
    parameters: {
      path: {
        pen_id: components['parameters']['pen_id']
        revision: components['parameters']['revision']
        form: components['parameters']['form']
      }
    }
    responses: { 200: components['responses']['octet-stream']; '4XX': components['responses']['ErrorReply'] }
  }
  bring_in_form: {
    parameters: {
      path: {
        pen_id: components['parameters']['pen_id']
        revision: components['parameters']['revision']
        form: components['parameters']['form']
      }
    }
    requestBody: { content: { 'application/octet-stream': string } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['FormBack'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  read_line: {
    parameters: {
      query?: { ground?: string }
      path: { pen_id: components['parameters']['pen_id']; revision: components['parameters']['revision'] }
    }
    responses: { 200: components['responses']['png']; '4XX': components['responses']['ErrorReply'] }
  }
  read_swatch: {
    parameters: {
      query?: { ground?: string }
      path: { pen_id: components['parameters']['pen_id']; revision: components['parameters']['revision'] }
    }
    responses: { 200: components['responses']['png']; '4XX': components['responses']['ErrorReply'] }
  }
  share_pen: {
    parameters: { query: { sheet_id: string; fit?: boolean }; path: { pen_id: components['parameters']['pen_id'] } }
    responses: { 200: components['responses']['zip']; '4XX': components['responses']['ErrorReply'] }
  }
  read_pieces: {
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['Pieces'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  keep_piece: {
    requestBody: { content: { 'application/json': components['schemas']['KeepPiece'] } }
    responses: { 201: components['responses']['Sheet']; '4XX': components['responses']['ErrorReply'] }
  }
  read_room: { responses: { 200: components['responses']['RoomReply']; '4XX': components['responses']['ErrorReply'] } }
  renew_key: { responses: { 200: components['responses']['RoomReply']; '4XX': components['responses']['ErrorReply'] } }
  put_out: {
    parameters: { path: { browser_id: components['parameters']['browser_id'] } }
    responses: { 200: components['responses']['RoomReply']; '4XX': components['responses']['ErrorReply'] }
  }
  check_aim: {
    requestBody: { content: { 'application/json': components['schemas']['AimBody'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['Aim'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  look_closer: {
    requestBody: { content: { 'application/json': components['schemas']['LooksBody'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['LookNext'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  match_settings: {
    requestBody: { content: { 'application/json': components['schemas']['MatchesBody'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['MatchesReply'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  check_straightness: {
    requestBody: { content: { 'application/json': components['schemas']['LinesBody'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['Straightness'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  write_small: {
    requestBody: { content: { 'application/json': components['schemas']['WordBody'] } }
    responses: { 200: components['responses']['png']; '4XX': components['responses']['ErrorReply'] }
  }
  new_sheet: {
    requestBody: { content: { 'application/json': components['schemas']['NewSheet'] } }
    responses: { 201: components['responses']['Sheet']; '4XX': components['responses']['ErrorReply'] }
  }
  read_sheet: {
    parameters: { path: { sheet_id: components['parameters']['sheet_id'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['SheetDetail'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  edit_sheet: {
    parameters: { path: { sheet_id: components['parameters']['sheet_id'] } }
    requestBody: { content: { 'application/json': components['schemas']['SheetChange'] } }
    responses: { 200: components['responses']['Sheet']; '4XX': components['responses']['ErrorReply'] }
  }
  change_sheet_bin: {
    parameters: { path: { sheet_id: components['parameters']['sheet_id'] } }
    requestBody: { content: { 'application/json': components['schemas']['BinChange'] } }
    responses: { 200: components['responses']['Sheet']; '4XX': components['responses']['ErrorReply'] }
  }
  read_calmer: {
    parameters: { path: { sheet_id: components['parameters']['sheet_id'] } }
    requestBody: { content: { 'application/json': components['schemas']['InStrip'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['Calmer'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  clear_page: {
    parameters: { path: { sheet_id: components['parameters']['sheet_id'] } }
    requestBody: { content: { 'application/json': components['schemas']['ClearPage'] } }
    responses: { 200: components['responses']['Rubbed']; '4XX': components['responses']['ErrorReply'] }
  }
  change_covers: {
    parameters: { path: { sheet_id: components['parameters']['sheet_id'] } }
    requestBody: { content: { 'application/json': components['schemas']['Covers'] } }
    responses: { 200: components['responses']['Sheet']; '4XX': components['responses']['ErrorReply'] }
  }
  bring_in_csv: {
    parameters: {
      query: {
        name?: string
        x: string
        y: string
        stroke?: string
        t?: string
        force?: string
        altitude?: string
        azimuth?: string
        length_unit?: string
        time_unit?: string
      }
      path: { sheet_id: components['parameters']['sheet_id'] }
    }
    requestBody: { content: { 'text/csv': string } }
    responses: { 201: components['responses']['SheetCame']; '4XX': components['responses']['ErrorReply'] }
  }
  read_cuts: {
    parameters: { query?: { page_mm?: number }; path: { sheet_id: components['parameters']['sheet_id'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['PageCuts'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  read_deposit: {
    parameters: { path: { sheet_id: components['parameters']['sheet_id'] } }
    requestBody: { content: { 'application/json': components['schemas']['DepositBody'] } }
    responses: { 200: components['responses']['png']; '4XX': components['responses']['ErrorReply'] }
  }
  export_pages: {
    parameters: { path: { sheet_id: components['parameters']['sheet_id'] } }
    requestBody: { content: { 'application/json': components['schemas']['ExportBody'] } }
    responses: { 202: components['responses']['JobItem']; '4XX': components['responses']['ErrorReply'] }
  }
  take_out_sheet: {
    parameters: {
      query?: { form?: 'svg' | 'png' | 'pdf' | 'inkml' | 'ora'; dpi?: number; paper?: boolean; lifted?: boolean }
      path: { sheet_id: components['parameters']['sheet_id'] }
    }
    responses: { 200: components['responses']['octet-stream']; '4XX': components['responses']['ErrorReply'] }
  }
  bring_in_sheet: {
    parameters: { path: { sheet_id: components['parameters']['sheet_id'] } }
    requestBody: { content: { 'application/inkml+xml': string } }
    responses: { 201: components['responses']['Sheet']; '4XX': components['responses']['ErrorReply'] }
  }
  read_layers: {
    parameters: { path: { sheet_id: components['parameters']['sheet_id'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['LayersHold'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  change_layers: {
    parameters: { path: { sheet_id: components['parameters']['sheet_id'] } }
    requestBody: { content: { 'application/json': components['schemas']['LayersBody'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['LayersReply'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  read_marks: {
    parameters: { path: { sheet_id: components['parameters']['sheet_id'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['MarkedPassages'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  read_on_a_paper: {
    parameters: { path: { sheet_id: components['parameters']['sheet_id'] } }
    requestBody: { content: { 'application/json': components['schemas']['PaperBody'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['OnPaper'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  bring_in_openraster: {
    parameters: { query?: { name?: string }; path: { sheet_id: components['parameters']['sheet_id'] } }
    requestBody: { content: { 'image/openraster': string } }
    responses: { 201: components['responses']['SheetCame']; '4XX': components['responses']['ErrorReply'] }
  }
  bring_in_original: {
    parameters: {
      query?: { becomes?: 'print' | 'sheet'; name?: string }
      path: { sheet_id: components['parameters']['sheet_id'] }
    }
    requestBody: { content: { 'application/octet-stream': string } }
    responses: { 201: components['responses']['Pages']; '4XX': components['responses']['ErrorReply'] }
  }
  read_page: {
    parameters: {
      query?: {
        lifted?: boolean
        scale?: number
        left?: number
        top?: number
        right?: number | null
        bottom?: number | null
      }
      path: { sheet_id: components['parameters']['sheet_id'] }
    }
    responses: { 200: components['responses']['png']; '4XX': components['responses']['ErrorReply'] }
  }
  change_page_bin: {
    parameters: { path: { sheet_id: components['parameters']['sheet_id'] } }
    requestBody: { content: { 'application/json': components['schemas']['BinChange'] } }
    responses: { 200: components['responses']['Pages']; '4XX': components['responses']['ErrorReply'] }
  }
  turn_a_page: {
    parameters: { path: { sheet_id: components['parameters']['sheet_id'] } }
    responses: { 200: components['responses']['Pages']; '4XX': components['responses']['ErrorReply'] }
  }
  read_pages: {
    parameters: { path: { sheet_id: components['parameters']['sheet_id'] } }
    responses: { 200: components['responses']['Pages']; '4XX': components['responses']['ErrorReply'] }
  }
  put_pages_in_order: {
    parameters: { path: { sheet_id: components['parameters']['sheet_id'] } }
    requestBody: { content: { 'application/json': components['schemas']['PageOrder'] } }
    responses: { 200: components['responses']['Pages']; '4XX': components['responses']['ErrorReply'] }
  }
  new_page: {
    parameters: { path: { sheet_id: components['parameters']['sheet_id'] } }
    requestBody: { content: { 'application/json': components['schemas']['NewPage'] } }
    responses: { 201: components['responses']['Pages']; '4XX': components['responses']['ErrorReply'] }
  }
  put_starter: {
    parameters: { path: { sheet_id: components['parameters']['sheet_id'] } }
    requestBody: { content: { 'application/json': components['schemas']['PutStarter'] } }
    responses: { 200: components['responses']['StrokesKept']; '4XX': components['responses']['ErrorReply'] }
  }
  read_prints: {
    parameters: { path: { sheet_id: components['parameters']['sheet_id'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['PrintsRead'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  change_prints: {
    parameters: { path: { sheet_id: components['parameters']['sheet_id'] } }
    requestBody: { content: { 'application/json': components['schemas']['Prints'] } }
    responses: { 200: components['responses']['Sheet']; '4XX': components['responses']['ErrorReply'] }
  }
  lay_print_anew: {
    parameters: { path: { sheet_id: components['parameters']['sheet_id'] } }
    requestBody: { content: { 'application/json': components['schemas']['LayAnew'] } }
    responses: { 200: components['responses']['Sheet']; '4XX': components['responses']['ErrorReply'] }
  }
  read_printed_links: {
    parameters: { path: { sheet_id: components['parameters']['sheet_id'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['PrintedLinks'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  read_sheet_ink: {
    parameters: { query?: { of?: 'line' | 'pen' | 'all' }; path: { sheet_id: components['parameters']['sheet_id'] } }
    responses: { 200: components['responses']['ReadReply']; '4XX': components['responses']['ErrorReply'] }
  }
  read_chosen_ink: {
    parameters: { path: { sheet_id: components['parameters']['sheet_id'] } }
    requestBody: { content: { 'application/json': components['schemas']['Chosen'] } }
    responses: { 200: components['responses']['ReadReply']; '4XX': components['responses']['ErrorReply'] }
  }
  read_replay: {
    parameters: {
      query?: { by?: 'time' | 'stroke' | 'steady' }
      path: { sheet_id: components['parameters']['sheet_id'] }
    }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['Replay'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  read_moment: {
    parameters: {
      query: {
        by?: 'time' | 'stroke' | 'steady'
        at_s: number
        scale?: number
        left?: number
        top?: number
        right: number
        bottom: number
      }
      path: { sheet_id: components['parameters']['sheet_id'] }
    }
    responses: { 200: components['responses']['png']; '4XX': components['responses']['ErrorReply'] }
  }
  take_out_replay: {
    parameters: { path: { sheet_id: components['parameters']['sheet_id'] } }
    requestBody: { content: { 'application/json': components['schemas']['FilmOut'] } }
    responses: { 202: components['responses']['JobItem']; '4XX': components['responses']['ErrorReply'] }
  }
  rub_out: {
    parameters: { path: { sheet_id: components['parameters']['sheet_id'] } }
    requestBody: { content: { 'application/json': components['schemas']['RubWay'] } }
    responses: { 200: components['responses']['Rubbed']; '4XX': components['responses']['ErrorReply'] }
  }
  read_steps: {
    parameters: { path: { sheet_id: components['parameters']['sheet_id'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['SheetSteps'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  change_steps: {
    parameters: { path: { sheet_id: components['parameters']['sheet_id'] } }
    requestBody: { content: { 'application/json': components['schemas']['SheetSteps'] } }
    responses: { 200: components['responses']['Done']; '4XX': components['responses']['ErrorReply'] }
  }
  keep_strokes: {
    parameters: { path: { sheet_id: components['parameters']['sheet_id'] } }
    requestBody: { content: { 'application/json': components['schemas']['NewStrokes'] } }
    responses: { 200: components['responses']['StrokesKept']; '4XX': components['responses']['ErrorReply'] }
  }
  arrange_ink: {
    parameters: { path: { sheet_id: components['parameters']['sheet_id'] } }
    requestBody: { content: { 'application/json': components['schemas']['ArrangeBody'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['ArrangedReply'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  change_stroke_bin: {
    parameters: { path: { sheet_id: components['parameters']['sheet_id'] } }
    requestBody: { content: { 'application/json': components['schemas']['StrokesBin'] } }
    responses: { 200: components['responses']['InkChanged']; '4XX': components['responses']['ErrorReply'] }
  }
  recolour_strokes: {
    parameters: { path: { sheet_id: components['parameters']['sheet_id'] } }
    requestBody: { content: { 'application/json': components['schemas']['Recolour'] } }
    responses: { 200: components['responses']['InkedAgain']; '4XX': components['responses']['ErrorReply'] }
  }
  take_out_ink: {
    parameters: { path: { sheet_id: components['parameters']['sheet_id'] } }
    requestBody: { content: { 'application/json': components['schemas']['InkFile'] } }
    responses: { 200: components['responses']['octet-stream']; '4XX': components['responses']['ErrorReply'] }
  }
  fill_ink: {
    parameters: { path: { sheet_id: components['parameters']['sheet_id'] } }
    requestBody: { content: { 'application/json': components['schemas']['FillInk'] } }
    responses: { 200: components['responses']['Placed']; '4XX': components['responses']['ErrorReply'] }
  }
  find_strokes_like: {
    parameters: { path: { sheet_id: components['parameters']['sheet_id'] } }
    requestBody: { content: { 'application/json': components['schemas']['LikeThese'] } }
    responses: { 200: components['responses']['StrokesMet']; '4XX': components['responses']['ErrorReply'] }
  }
  find_strokes_met: {
    parameters: { path: { sheet_id: components['parameters']['sheet_id'] } }
    requestBody: { content: { 'application/json': components['schemas']['SelectBody'] } }
    responses: { 200: components['responses']['StrokesMet']; '4XX': components['responses']['ErrorReply'] }
  }
  ink_strokes_again: {
    parameters: { path: { sheet_id: components['parameters']['sheet_id'] } }
    requestBody: { content: { 'application/json': components['schemas']['InkAgain'] } }
    responses: { 200: components['responses']['InkedAgain']; '4XX': components['responses']['ErrorReply'] }
  }
  place_ink: {
    parameters: { path: { sheet_id: components['parameters']['sheet_id'] } }
    requestBody: { content: { 'application/json': components['schemas']['PlaceInk'] } }
    responses: { 200: components['responses']['Placed']; '4XX': components['responses']['ErrorReply'] }
  }
  swap_ink: {
    parameters: { path: { sheet_id: components['parameters']['sheet_id'] } }
    requestBody: { content: { 'application/json': components['schemas']['SwapInk'] } }
    responses: { 200: components['responses']['InkChanged']; '4XX': components['responses']['ErrorReply'] }
  }
  read_figure: {
    parameters: {
      path: { sheet_id: components['parameters']['sheet_id']; stroke_id: components['parameters']['stroke_id'] }
    }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['FigureOfInk'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  change_corner: {
    parameters: {
      path: { sheet_id: components['parameters']['sheet_id']; stroke_id: components['parameters']['stroke_id'] }
    }
    requestBody: { content: { 'application/json': components['schemas']['ChangeCorner'] } }
    responses: { 200: components['responses']['Placed']; '4XX': components['responses']['ErrorReply'] }
  }
  tidy_stroke: {
    parameters: {
      path: { sheet_id: components['parameters']['sheet_id']; stroke_id: components['parameters']['stroke_id'] }
    }
    requestBody: { content: { 'application/json': components['schemas']['TidyInk'] } }
    responses: { 200: components['responses']['Rubbed']; '4XX': components['responses']['ErrorReply'] }
  }
  scribble_out: {
    parameters: {
      path: { sheet_id: components['parameters']['sheet_id']; stroke_id: components['parameters']['stroke_id'] }
    }
    responses: { 200: components['responses']['Rubbed']; '4XX': components['responses']['ErrorReply'] }
  }
  bring_in_svg: {
    parameters: { query?: { name?: string }; path: { sheet_id: components['parameters']['sheet_id'] } }
    requestBody: { content: { 'image/svg+xml': string } }
    responses: { 201: components['responses']['SheetCame']; '4XX': components['responses']['ErrorReply'] }
  }
  let_hand_write: {
    parameters: { path: { sheet_id: components['parameters']['sheet_id'] } }
    requestBody: { content: { 'application/json': components['schemas']['WriteText'] } }
    responses: { 200: components['responses']['StrokesKept']; '4XX': components['responses']['ErrorReply'] }
  }
  read_stage: {
    responses: { 200: components['responses']['StageReply']; '4XX': components['responses']['ErrorReply'] }
  }
  show: {
    requestBody: { content: { 'application/json': components['schemas']['ShowSheet'] } }
    responses: { 200: components['responses']['StageReply']; '4XX': components['responses']['ErrorReply'] }
  }
  withdraw: { responses: { 200: components['responses']['StageReply']; '4XX': components['responses']['ErrorReply'] } }
  tell_stage: {
    requestBody: { content: { 'application/json': components['schemas']['ShownLines'] } }
    responses: { 200: components['responses']['Clock']; '4XX': components['responses']['ErrorReply'] }
  }
  make_grid: {
    requestBody: { content: { 'application/json': components['schemas']['GridBody'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['GridReply'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  check_wash_set: {
    requestBody: { content: { 'application/json': components['schemas']['SetBody'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['SetReply'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
  solve_for_paper: {
    requestBody: { content: { 'application/json': components['schemas']['SolveWashBody'] } }
    responses: {
      /** @description Done */
      200: { content: { 'application/json': components['schemas']['SolveWashReply'] } }
      '4XX': components['responses']['ErrorReply']
    }
  }
}
