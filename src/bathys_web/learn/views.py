"""Pages to learn from; all are open to everybody."""

from typing import Any

from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import render
from django.views.decorators.http import require_GET, require_http_methods

from bathys.rules import CAUTIONS
from bathys.shelf import MOST_BYTES, RowError
from bathys.validity import CHECKED, TRIAL_KINDS, TrialRow, read_trials, trial_template
from bathys.wording.glossary import GLOSSARY
from bathys_web.learn.giving import give_trials, pooled_trials, take_back_trials
from bathys_web.learn.models import GivenTrial
from bathys_web.learn.pages import HELP

__all__ = ["glossary", "help_page", "learn", "tour_steps", "trial_file", "validity"]


@require_GET
def learn(request: HttpRequest) -> HttpResponse:
    """The tour, the help pages and the glossary.

    Parameters
    ----------
    request : HttpRequest
        The request

    Returns
    -------
    HttpResponse
        The page
    """
    return render(request, "learn/learn.html", {"help": HELP})


@require_GET
def glossary(request: HttpRequest) -> HttpResponse:
    """What the terms mean.

    Parameters
    ----------
    request : HttpRequest
        The request

    Returns
    -------
    HttpResponse
        The page
    """
    return render(request, "learn/glossary.html", {"terms": GLOSSARY})


@require_GET
def help_page(request: HttpRequest, key: str) -> HttpResponse:
    """One help page.

    Parameters
    ----------
    request : HttpRequest
        The request
    key : str
        Its key

    Returns
    -------
    HttpResponse
        The page

    Raises
    ------
    Http404
        If there is none of that name
    """
    page = next((p for p in HELP if p.key == key), None)
    if page is None:
        raise Http404
    return render(request, page.template, {"page": page, "help": HELP, "cautions": CAUTIONS})


@require_GET
def tour_steps(request: HttpRequest) -> HttpResponse:
    """The steps of the tour, for the page that it goes through.

    Parameters
    ----------
    request : HttpRequest
        The request

    Returns
    -------
    HttpResponse
        The steps
    """
    return render(request, "learn/_tour.html")


@require_http_methods(["GET", "POST"])
def validity(request: HttpRequest) -> HttpResponse:
    """What was checked by computation, what by measurement, and trials that measure; posted, the
    trials of a file beside what is expected of them. They are kept where somebody gives them.

    Parameters
    ----------
    request : HttpRequest
        The request: ``kind`` of the trials and their ``file``; with ``give`` they are given to all,
        with ``act`` "take_back" those given before are deleted

    Returns
    -------
    HttpResponse
        The page
    """
    about = TRIAL_KINDS.get(request.POST.get("kind", ""))
    context: dict[str, Any] = {"checked": CHECKED, "kinds": TRIAL_KINDS.values(), "about": about}
    status, user = 200, request.user
    if request.POST.get("act") == "take_back" and about is not None and user.is_authenticated:
        take_back_trials(user, about.key)
    elif request.method == "POST":
        sent = request.FILES.get("file")
        trials: list[TrialRow] = []
        wrong = [RowError(0, "Choose a CSV file of at most 1 MB.")]
        if about is not None and sent is not None and (sent.size or 0) <= MOST_BYTES:
            trials, wrong = read_trials(about.key, sent.read())
            if trials and request.POST.get("give") == "1" and user.is_authenticated:
                give_trials(user, about.key, trials)
        within = sum(t.is_within for t in trials)
        context |= {"trials": trials, "wrong": wrong, "within": within, "is_read": True}
        status = 200 if trials else 422
    context["pooled"] = [(TRIAL_KINDS[kind], row) for kind, row in pooled_trials().items()]
    own = GivenTrial.objects.filter(owner=user) if user.is_authenticated else None
    context["given"] = {g.kind for g in own} if own is not None else set()
    return render(request, "learn/validity.html", context, status=status)


@require_GET
def trial_file(request: HttpRequest, kind: str) -> HttpResponse:
    """A file of trials to fill in.

    Parameters
    ----------
    request : HttpRequest
        The request
    kind : str
        A kind of trial

    Returns
    -------
    HttpResponse
        CSV

    Raises
    ------
    Http404
        If there is none of that name
    """
    if kind not in TRIAL_KINDS:
        raise Http404
    headers = {"Content-Disposition": f'attachment; filename="{kind}-trials.csv"'}
    content_type = "text/csv; charset=utf-8"
    return HttpResponse(trial_template(kind), content_type=content_type, headers=headers)
