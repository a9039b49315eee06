using System.Collections.Immutable;
using System.IO.Compression;
using System.Text.Json;
using System.Text.Json.Serialization.Metadata;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Walkdown.Core;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogue;
using Walkdown.Core.Handover;
using Walkdown.Core.Measures;
using Walkdown.Core.Sealing;
using Walkdown.Formats;
using Walkdown.Reports;
using Walkdown.Server.Cards;
using Walkdown.Server.Power;
using Walkdown.Server.Shared;
using Walkdown.Server.Walk;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Handover;

/// <summary>One Card as it would be sealed alone.</summary>
public sealed record ShownAnswer(long Sequence, Verdict Verdict, int OpenFaults, string Shown);
