using System.Text.Json;
using Microsoft.AspNetCore.Diagnostics;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core.Measures;
using Walkdown.Formats;
using Walkdown.Reports;
using Walkdown.Storage;

namespace Walkdown.Server.Shared;

/// <summary>Errors as RFC 9457 problem details: what is wrong, where, and the mend, in a technician's words.</summary>
public static class Problems
{
    private static readonly Texts English = new("en");

    public static ProblemHttpResult Of(int status, Message what, string? field = null, IDictionary<string, object?>? more = null)
    {
        var extensions = new Dictionary<string, object?>(more ?? new Dictionary<string, object?>()) { ["code"] = what.Code };
        if (field is not null)
            extensions["field"] = field;
        return TypedResults.Problem(
            title: English.Or("problem." + status, "Not taken"),
            detail: English.Say(what),
            statusCode: status,
            extensions: extensions
        );
    }

    public static ProblemHttpResult Of(int status, string code, params string[] args) => Of(status, new Message(code, [.. args]));

    /// <summary>The answer to a ledger's result that kept nothing.</summary>
    public static ProblemHttpResult Of(LedgerResult result) =>
        result.Kept switch
        {
            Kept.UnknownPlace => Of(404, "problem.unknown-card"),
            Kept.OtherBody => Of(409, "problem.same-id-other-body"),
            _ => Of(422, result.Why!, result.Field),
        };

    /// <summary>Whatever went wrong below becomes a problem that says what to do. Nothing was kept: every write is one
    /// transaction.</summary>
    public static void UseProblems(this WebApplication app) =>
        app.UseExceptionHandler(handler =>
            handler.Run(async context =>
            {
                var error = context.Features.Get<IExceptionHandlerFeature>()!.Error;
                var problem = error switch
                {
                    BadHttpRequestException { StatusCode: 413 } => Of(413, "problem.too-large"),
                    BadHttpRequestException or JsonException or NotSupportedException or BadInputException => Of(
                        400,
                        "problem.unreadable",
                        Where(error)
                    ),
                    SheetException sheet => Of(422, sheet.What),
                    Refusal refusal => Of(422, refusal.What),
                    // It was sent in a way that nobody foresaw: sent again it would be the same, so nothing waits for it.
                    NullReferenceException
                    or ArgumentException
                    or FormatException
                    or InvalidCastException
                    or KeyNotFoundException
                    or InvalidOperationException
                    or OverflowException
                    or IndexOutOfRangeException when error is not ObjectDisposedException => Of(422, "problem.unforeseen"),
                    OperationCanceledException => Of(503, "problem.try-again"),
                    _ => Of(MessageOf(error).Code is "problem.disk-full" or "problem.read-only" ? 507 : 503, MessageOf(error)),
                };
                if (error is OperationCanceledException && context.RequestAborted.IsCancellationRequested)
                    return;
                // Whatever is not the sender's fault leaves a trace, whatever it was answered with.
                if (
                    problem.StatusCode >= 500
                    || problem.ProblemDetails.Extensions.TryGetValue("code", out var code) && code is "problem.unforeseen"
                )
                    app.Logger.LogError(error, "A request failed: {Path}", context.Request.Path);
                else if (error is BadInputException)
                    app.Logger.LogWarning(error, "A value that cannot be worked with: {Path}", context.Request.Path);
                await problem.ExecuteAsync(context);
            })
        );

    /// <summary>What went wrong below, for people: the disk, the folder, a busy record, or something unforeseen.</summary>
    public static Message MessageOf(Exception error)
    {
        var sqlite = error as SqliteException ?? (error as DbUpdateException)?.InnerException as SqliteException;
        return new Message(
            error switch
            {
                _ when sqlite is { SqliteErrorCode: 13 } => "problem.disk-full",
                _ when sqlite is { SqliteErrorCode: 8 or 14 } => "problem.read-only",
                IOException { HResult: 28 or unchecked((int)0x80070070) } => "problem.disk-full",
                UnauthorizedAccessException or IOException { HResult: 30 } => "problem.read-only",
                _ when sqlite is not null || error is TimeoutException => "problem.try-again",
                _ => "problem.unexpected",
            }
        );
    }

    /// <summary>The place in the JSON, where the reader knows it.</summary>
    private static string Where(Exception error)
    {
        for (var e = error; e is not null; e = e.InnerException!)
            if (e is JsonException { Path: { } path })
                return path;
        return error is BadHttpRequestException bad && bad.Message.Length < 160 ? bad.Message : "$";
    }
}
