"""Addresses."""

from allauth.account import views as account
from django.urls import path, re_path

from bathys_web.accounts import views as account_views
from bathys_web.config.errors import not_found, refused, server_error
from bathys_web.instruments.views import api as api_views
from bathys_web.instruments.views import boards as board_views
from bathys_web.instruments.views import files as reading_file_views
from bathys_web.instruments.views import page as instrument_views
from bathys_web.learn import views as learn_views
from bathys_web.plans import views
from bathys_web.plans.views import as_built as as_built_views
from bathys_web.plans.views import away as away_views
from bathys_web.plans.views import briefs as brief_views
from bathys_web.plans.views import build as build_views
from bathys_web.plans.views import calendar as calendar_views
from bathys_web.plans.views import charts as chart_views
from bathys_web.plans.views import ground as ground_views
from bathys_web.plans.views import holes as holes_views
from bathys_web.plans.views import offline as offline_views
from bathys_web.plans.views import own_parts as part_views
from bathys_web.plans.views import prices as price_views
from bathys_web.plans.views import pumps as pump_views
from bathys_web.plans.views import report as report_views
from bathys_web.plans.views import run as run_views
from bathys_web.plans.views import stands as stands_views
from bathys_web.plans.views import start as start_views
from bathys_web.plans.views import trials as trial_views

urlpatterns = [
    path("", views.plans_page, name="plans"),
    path("accounts/demo/", views.start_demo, name="demo_sign_in"),
    path("accounts/demo/keep/", views.keep_demo, name="keep_demo"),
    path("accounts/login/", account.login, name="account_login"),
    path("accounts/logout/", views.sign_out, name="account_logout"),
    path("accounts/signup/", account_views.sign_up, name="account_signup"),
    path(
        "accounts/password/change/", account_views.change_password, name="account_change_password"
    ),
    path("accounts/password/reset/", account_views.reset_password, name="account_reset_password"),
    path(
        "accounts/password/reset/done/",
        account_views.reset_password_done,
        name="account_reset_password_done",
    ),
    re_path(
        r"^accounts/password/reset/key/(?P<uidb36>[0-9A-Za-z]+)-(?P<key>.+)/$",
        account_views.new_password,
        name="account_reset_password_from_key",
    ),
    path(
        "accounts/password/reset/key/done/",
        account_views.new_password_done,
        name="account_reset_password_from_key_done",
    ),
    path("accounts/email/", account_views.change_email, name="account_email"),
    path(
        "accounts/email/sent/",
        account_views.email_on_its_way,
        name="account_email_verification_sent",
    ),
    path(
        "accounts/email/confirm/<str:key>/",
        account_views.confirm_email,
        name="account_confirm_email",
    ),
    path("mailbox/", account_views.mailbox, name="mailbox"),
    path("accounts/data/", views.own_data, name="own_data"),
    path("accounts/delete/", views.delete_account, name="delete_account"),
    path("learn/", learn_views.learn, name="learn"),
    path("learn/glossary/", learn_views.glossary, name="glossary"),
    path("learn/help/<slug:key>/", learn_views.help_page, name="help"),
    path("learn/validity/", learn_views.validity, name="validity"),
    path("learn/validity/<slug:kind>.csv", learn_views.trial_file, name="trial_file"),
    path("learn/tour/", views.start_tour, name="start_tour"),
    path("learn/tour/steps/", learn_views.tour_steps, name="tour_steps"),
    path("units/", views.switch_units, name="switch_units"),
    path("plan.schema.json", views.plan_schema, name="plan_schema"),
    path("plans/new/", views.new_plan, name="new_plan"),
    path("plans/import/", views.import_plan, name="import_plan"),
    path("plans/<uuid:key>/", views.plan_page, name="plan"),
    path("plans/<uuid:key>/inspector/", views.inspector, name="inspector"),
    path("plans/<uuid:key>/side-view/", views.side_view, name="side_view"),
    path("plans/<uuid:key>/joins/", views.joins, name="joins"),
    path("plans/<uuid:key>/pumps/", views.pumps_to_choose, name="pumps_to_choose"),
    path("plans/<uuid:key>/edit/", views.edit, name="edit"),
    path("plans/<uuid:key>/ground/", ground_views.ground, name="ground"),
    path("plans/<uuid:key>/ground/better/", ground_views.better_place, name="better_place"),
    path(
        "plans/<uuid:key>/isometric.svg", ground_views.isometric_picture, name="isometric_picture"
    ),
    path("plans/<uuid:key>/ground.svg", ground_views.ground_picture, name="ground_picture"),
    path("plans/<uuid:key>/build/", build_views.build, name="build"),
    path("plans/<uuid:key>/build/holes/", holes_views.holes, name="holes"),
    path("plans/<uuid:key>/build/stands/", stands_views.stands, name="stands"),
    path(
        "plans/<uuid:key>/build/drilling/<str:vessel>.svg",
        holes_views.drilling_picture,
        name="drilling_picture",
    ),
    path("plans/<uuid:key>/build/begin/", build_views.begin, name="begin_building"),
    path("plans/<uuid:key>/build/tick/", build_views.tick_step, name="tick_step"),
    path("plans/<uuid:key>/build/paper/<str:paper>/", build_views.build_paper, name="build_paper"),
    path("plans/<uuid:key>/build/paper/<str:paper>/file/", build_views.build_pdf, name="build_pdf"),
    path("plans/<uuid:key>/build/file/<str:kind>/", build_views.build_file, name="build_file"),
    path("plans/<uuid:key>/undo/", views.undo, name="undo"),
    path("plans/<uuid:key>/redo/", views.redo, name="redo"),
    path("plans/<uuid:key>/history/", views.history, name="history"),
    path("plans/<uuid:key>/history/go/", views.go_to, name="go_to"),
    path("plans/<uuid:key>/offers/<slug:kind>/", views.offers, name="offers"),
    path("plans/<uuid:key>/offers/<slug:kind>/take/", views.take, name="take"),
    path("plans/<uuid:key>/computations/<int:number>/stop/", views.stop, name="stop_computation"),
    path("plans/<uuid:key>/offers/<slug:kind>/preview/", views.preview, name="preview"),
    path("plans/<uuid:key>/compare/", views.compare, name="compare"),
    path("plans/<uuid:key>/bench/<slug:bench>/", views.bench, name="bench"),
    path("plans/<uuid:key>/bench/<slug:bench>/beside/", views.beside, name="beside"),
    path("plans/<uuid:key>/run/", run_views.run, name="run"),
    path("service-worker.js", offline_views.service_worker, name="service_worker"),
    path("calendar/<uuid:secret>.ics", calendar_views.calendar_feed, name="calendar_feed"),
    path("plans/<uuid:key>/run/stock/", run_views.take_stock, name="take_stock"),
    path("plans/<uuid:key>/run/calendar/", calendar_views.calendar_link, name="calendar_link"),
    path(
        "plans/<uuid:key>/run/water/<str:part>/",
        chart_views.water_chart,
        name="water_chart",
    ),
    path(
        "plans/<uuid:key>/run/chart/<slug:kind>/<str:part>/",
        chart_views.log_chart,
        name="log_chart",
    ),
    path("plans/<uuid:key>/run/season/", report_views.report, name="season_report"),
    path("plans/<uuid:key>/run/season.xlsx", report_views.report_xlsx, name="season_report_xlsx"),
    path(
        "plans/<uuid:key>/run/season/<str:paper>/",
        report_views.report_paper,
        name="season_report_paper",
    ),
    path(
        "plans/<uuid:key>/run/season/<str:paper>/file/",
        report_views.report_pdf,
        name="season_report_pdf",
    ),
    path("plans/<uuid:key>/run/trials/", trial_views.trials, name="trials"),
    path(
        "plans/<uuid:key>/run/trials/<int:pk>/delete/",
        trial_views.delete_trial,
        name="delete_trial",
    ),
    path("plans/<uuid:key>/run/first-season/", start_views.first_season, name="first_season"),
    path(
        "plans/<uuid:key>/run/first-season.ics",
        start_views.first_season_ics,
        name="first_season_ics",
    ),
    path("plans/<uuid:key>/run/away/", away_views.away, name="away"),
    path("plans/<uuid:key>/run/as-built/", as_built_views.as_built, name="as_built"),
    path("plans/<uuid:key>/run/as-built/take/", as_built_views.take_as_built, name="take_as_built"),
    path("plans/<uuid:key>/run/offline/", offline_views.offline_log, name="offline_log"),
    path("plans/<uuid:key>/run/offline/token/", offline_views.offline_token, name="offline_token"),
    path("plans/<uuid:key>/run/offline/send/", offline_views.send_entries, name="send_entries"),
    path(
        "plans/<uuid:key>/run/offline/log.webmanifest",
        offline_views.offline_manifest,
        name="offline_manifest",
    ),
    path("plans/<uuid:key>/run/instruments/", instrument_views.instruments, name="instruments"),
    path("plans/<uuid:key>/run/instruments/new/", board_views.new_board, name="new_board"),
    path("plans/<uuid:key>/run/instruments/board/<int:pk>/", board_views.board, name="board"),
    path(
        "plans/<uuid:key>/run/instruments/<int:pk>/",
        board_views.channel_page,
        name="instrument",
    ),
    path("plans/<uuid:key>/run/instruments/seen/", instrument_views.see, name="see_incident"),
    path(
        "plans/<uuid:key>/run/instruments/watch/", instrument_views.keep_settings, name="keep_watch"
    ),
    path(
        "plans/<uuid:key>/run/instruments/file/",
        reading_file_views.readings_file,
        name="readings_file",
    ),
    path("plans/<uuid:key>/run/instruments/fault/", instrument_views.rig_fault, name="rig_fault"),
    path("api/readings/", api_views.receive, name="receive_readings"),
    path("api/board/", api_views.describe_board, name="describe_board"),
    path("plans/<uuid:key>/run/log.csv", run_views.log_csv, name="log_csv"),
    path("plans/<uuid:key>/run/enter/<slug:kind>/", run_views.enter, name="enter"),
    path("plans/<uuid:key>/run/<int:pk>/photo.jpg", run_views.entry_photo, name="entry_photo"),
    path("plans/<uuid:key>/run/<int:pk>/delete/", run_views.delete_entry, name="delete_entry"),
    path("plans/<uuid:key>/reasons/", brief_views.plan_reasons, name="plan_reasons"),
    path("plans/<uuid:key>/explained/", views.explained, name="explained"),
    path("plans/<uuid:key>/play/", views.play, name="play"),
    path("plans/brief/", brief_views.brief, name="brief"),
    path("plans/brief/answers/", brief_views.brief_answers, name="brief_answers"),
    path("plans/brief/tried/", brief_views.brief_tradeoffs, name="brief_tradeoffs"),
    path("plans/brief/take/", brief_views.take_answer, name="take_answer"),
    path("parts/", pump_views.own_pumps, name="own_pumps"),
    path("parts/curve/", pump_views.read_curve, name="read_curve"),
    path("parts/containers/", pump_views.keep_own_container, name="keep_own_container"),
    path(
        "parts/containers/<int:pk>/delete/",
        pump_views.delete_own_container,
        name="delete_own_container",
    ),
    path("parts/own/<slug:kind>/", pump_views.keep_own_part, name="keep_own_part"),
    path("parts/own/<int:pk>/delete/", part_views.delete_own_part, name="delete_own_part"),
    path("parts/own.csv", part_views.own_parts_csv, name="own_parts_csv"),
    path("parts/file/", part_views.read_own_part_file, name="read_own_part_file"),
    path("parts/file/take/", part_views.take_own_part_file, name="take_own_part_file"),
    path("parts/prices/", pump_views.keep_shelf_prices, name="shelf_prices"),
    path("parts/prices.csv", price_views.prices_csv, name="prices_csv"),
    path("parts/prices/file/", price_views.read_price_file, name="read_price_file"),
    path("parts/prices/take/", price_views.take_price_file, name="take_price_file"),
    path("plans/<uuid:key>/prices/", price_views.keep_plan_prices, name="plan_prices"),
    path("plans/<uuid:key>/shopping.csv", price_views.shopping_csv, name="shopping_csv"),
    path("parts/pumps/<int:pk>/delete/", pump_views.delete_own_pump, name="delete_own_pump"),
    path("plans/<uuid:key>/lock/", views.lock, name="lock"),
    path("plans/<uuid:key>/export/", views.export, name="export"),
    path("plans/<uuid:key>/archive/", views.archive, name="archive"),
    path("plans/<uuid:key>/label/", views.label, name="label"),
    path("plans/<uuid:key>/picture.svg", views.picture, name="picture"),
    path("plans/<uuid:key>/copy/", views.copy, name="copy"),
    path("plans/<uuid:key>/delete/", views.delete, name="delete"),
]

handler400 = refused
handler403 = refused
handler404 = not_found
handler500 = server_error
