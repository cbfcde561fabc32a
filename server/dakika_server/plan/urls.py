"""Addresses of the plan."""

from django.urls import path

from dakika_server.plan.api import aids, calendar, posts

HOME = "brands/<slug:brand>/plan"
urlpatterns = [
    path(HOME, calendar.PlanView.as_view()),
    path(f"{HOME}/going-out", calendar.GoingOutView.as_view()),
    path(f"{HOME}/pauses", calendar.PausesView.as_view()),
    path(f"{HOME}/notes", calendar.NotesView.as_view()),
    path(f"{HOME}/notes/<int:pk>", calendar.NoteView.as_view()),
    path(f"{HOME}/versions/<int:pk>/settle", calendar.SettleView.as_view()),
    path(f"{HOME}/versions/<int:pk>/by-hand", posts.ByHandView.as_view()),
    path(f"{HOME}/channels", posts.ChannelsView.as_view()),
    path(f"{HOME}/ideas", posts.IdeasView.as_view()),
    path(f"{HOME}/again/<int:pk>", posts.WriteAgainView.as_view()),
    path(f"{HOME}/fill", posts.FillView.as_view()),
    path(f"{HOME}/check", aids.CheckView.as_view()),
    path(f"{HOME}/options/<int:pk>", aids.OptionsView.as_view()),
    path(f"{HOME}/emoji", aids.EmojiView.as_view()),
    path(f"{HOME}/preview", aids.PreviewView.as_view()),
    path(f"{HOME}/hashtags", aids.HashtagSetsView.as_view()),
    path(f"{HOME}/hashtags/<int:pk>", aids.HashtagSetView.as_view()),
    path(f"{HOME}/writing", aids.WritingView.as_view()),
    path(f"{HOME}/<int:pk>/move", posts.MoveView.as_view()),
    path(f"{HOME}/<int:pk>/hand", posts.HandView.as_view()),
    path(f"{HOME}/<int:pk>", posts.PlannedPostView.as_view()),
    path(f"{HOME}/<int:pk>/schedule", posts.ScheduleView.as_view()),
]
